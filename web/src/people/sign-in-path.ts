/** The page to sign in on, and to come back from. */
export const signInPath = (to: string): string => `/sign-in?to=${encodeURIComponent(to)}`;

/** Where to go after signing in: a place of this application and none of another. */
export function placeAfter(search: string): string {
  const to = new URLSearchParams(search).get('to') ?? '/';
  try {
    const url = new URL(to, 'http://here.invalid');
    const isOwn = url.origin === 'http://here.invalid' && !url.pathname.startsWith('//');
    return isOwn && url.pathname !== '/sign-in' ? url.pathname + url.search : '/';
  } catch {
    return '/';
  }
}
