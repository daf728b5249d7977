import type { SentencePart } from '../../core/driver';

/** A command as its driver says it, with its values set off from the words. */
export const Sentence = ({ parts }: { readonly parts: readonly SentencePart[] }) => (
  <>
    {parts.map((part, n) =>
      part.param === undefined ? (
        <span key={n}>{part.text}</span>
      ) : (
        <span key={n} className="border border-rule-strong px-1">
          {part.text}
        </span>
      ),
    )}
  </>
);
