import type { Link } from '../../core/session';
import { linkText, linkTone } from './words';
import { Cross } from './marks';

/** How loud a link's state is: quiet when all is well, a fault inverse. */
export const linkToneClass: Record<ReturnType<typeof linkTone>, string> = {
  quiet: 'text-ink-soft',
  busy: 'text-accent',
  doubt: 'hatch-fine px-1.5 font-semibold',
  fault: 'bg-fault text-fault-ink inline-block px-1.75 py-px font-semibold whitespace-nowrap',
};

/** The state of a link as a word, as loud as it has to be: `up` is quiet, a fault has a cross and is inverse. */
export function LinkWord({ link }: { readonly link: Link }) {
  const tone = linkTone(link.word);
  return (
    <span className={linkToneClass[tone]}>
      {tone === 'fault' && <Cross />}
      {linkText(link)}
    </span>
  );
}
