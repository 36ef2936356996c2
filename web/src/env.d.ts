/// <reference types="astro/client" />

declare module '*.min.js?url' {
  const url: string;
  export default url;
}
