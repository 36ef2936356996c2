// A request that changes something shows that it comes from a page of this workshop: it carries what only
// such a page can read. The server gives it as a cookie that belongs to the session.

/** The header that carries it; in an answer it says that there is a new one. */
export const TOKEN_HEADER = 'x-hanzai-page';
export const RENEWED = 'renewed';
const NAME = 'hanzai-page';

/** Name of the cookie. A browser takes the second one over TLS alone, from this very host, for all paths. */
export const cookieName = (secure: boolean): string => (secure ? `__Host-${NAME}` : NAME);

const COOKIE = new RegExp(`(?:^|; ?)(?:__Host-)?${NAME}=([\\w-]+)`);

/** What a list of cookies has of it; undefined where it has none. */
export const tokenIn = (cookies: string): string | undefined => COOKIE.exec(cookies)?.[1];

/** Whether a request of this kind changes something. */
export const changes = (method: string): boolean => !['GET', 'HEAD', 'OPTIONS'].includes(method);
