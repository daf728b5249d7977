/** Says that somebody else has changed a field that is being typed in. Nothing is stored until it was said which one it shall be. */
export const Theirs = ({ text }: { readonly text: string | undefined }) =>
  text === undefined ? null : (
    <span role="alert" className="bg-fault px-2.5 py-1.5 font-semibold text-fault-ink">
      Changed meanwhile to “{text}”. Enter keeps yours, Escape takes theirs.
    </span>
  );
