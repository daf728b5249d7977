/** What the stage of the browser tests says to its hosts, beside what a supervisor says to a child. */
export type ToHost =
  /** Ends what the test used. The process stays, and keeps what it has loaded. */
  | { readonly type: 'end' }
  /** Gets ready what takes long, for the next test. */
  | { readonly type: 'prepare' };
export type FromHost = { readonly type: 'ended' };
