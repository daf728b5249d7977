import type { Link } from '../../core/session';
import { linkText, linkTone } from './words';
import { Cross } from './marks';

/** The state of a link as a word, as loud as it has to be: `up` is quiet, a fault has a cross and is inverse. */
export function LinkWord({ link }: { readonly link: Link }) {
  const tone = linkTone(link.word);
  return (
    <span className={`link-word link-${tone}`}>
      {tone === 'fault' && <Cross />}
      {linkText(link)}
    </span>
  );
}
