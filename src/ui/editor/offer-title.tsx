import type { Offer } from '../../core/page';

/** An offer in a line: what it is, and what kind of thing. */
export function OfferTitle({ offer, withDevice }: { readonly offer: Offer; readonly withDevice?: boolean }) {
  const words = [
    offer.kind === 'command' ? 'command' : offer.purpose.toLowerCase(),
    offer.held && 'held',
    offer.risky && 'guarded',
  ].filter(Boolean);
  return (
    <>
      {withDevice && offer.device && (
        <span className="font-mono text-[0.93em] font-semibold">{offer.device.data.tag}</span>
      )}
      <b>{offer.title}</b>
      <span className="ml-auto text-[13px] whitespace-nowrap text-ink-soft">{words.join(', ')}</span>
    </>
  );
}
