/// <reference types="astro/client" />

declare module '*.min.js?url' {
  const url: string;
  export default url;
}

declare namespace App {
  interface Locals {
    /** Who asks; left out where nobody signs in. */
    person?: import('./people/role').Person;
    /** He came in with a code, and has no password of his own yet. */
    hasCode?: boolean;
    /** Cookie that goes with the answer: what pages of this session show with what they change. */
    newToken?: string | undefined;
  }
}
