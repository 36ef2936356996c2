import { useEffect, useState } from 'react';

/**
 * The path of the page. Links that stay within it, by what `stays` says of both paths, change it in
 * the page; others are followed.
 */
export function usePath(stays: (from: string, to: string) => boolean): string {
  const [path, setPath] = useState(window.location.pathname);
  useEffect(() => {
    const moved = (): void => setPath(window.location.pathname);
    const follow = (event: MouseEvent): void => {
      const link = (event.target as Element).closest?.('a[href]');
      if (!(link instanceof HTMLAnchorElement) || !isPlainClick(event, link)) return;
      const there = new URL(link.href);
      if (there.origin !== window.location.origin) return;
      if (!stays(window.location.pathname, there.pathname)) return;
      event.preventDefault();
      window.history.pushState(null, '', there);
      moved();
    };
    document.addEventListener('click', follow);
    window.addEventListener('popstate', moved);
    return () => {
      document.removeEventListener('click', follow);
      window.removeEventListener('popstate', moved);
    };
  }, [stays]);
  return path;
}

function isPlainClick(event: MouseEvent, link: HTMLAnchorElement): boolean {
  const withKey = event.metaKey || event.ctrlKey || event.shiftKey || event.altKey;
  return (
    event.button === 0 && !event.defaultPrevented && !withKey && !link.download && !link.target
  );
}
