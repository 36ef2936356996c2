/** What a service answers: the value, or why not. */
export type Outcome<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly why: 'missing' | 'clash' | 'refused'; readonly detail: string };
