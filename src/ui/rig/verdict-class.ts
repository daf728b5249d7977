/** How the word for the result of a test looks, where it is not quiet. */
export const verdictClass: Readonly<Record<string, string | undefined>> = {
  failed: 'bg-fault text-fault-ink px-2 py-0.5 font-semibold',
  doubtful: 'bg-warning text-warning-ink px-2 py-0.5 font-semibold',
};
