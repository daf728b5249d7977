import type { Scalar } from '../../core/result';

/** The picture of a snapshot; a plain field where there is none. */
export const SnapshotPicture = ({
  src,
  className = '',
}: {
  readonly src: string | undefined;
  readonly className?: string;
}) =>
  src === undefined ? (
    <span aria-hidden className={`block border border-rule bg-raised ${className}`} />
  ) : (
    <img src={src} alt="" className={`block border border-rule-strong bg-black object-contain ${className}`} />
  );

const words: Readonly<Record<string, string>> = {
  there: 'There',
  moving: 'Moving',
  changed: 'Changed',
  away: 'Not there',
};

interface Props {
  readonly state: Scalar | undefined;
  readonly progress: number;
  readonly isBlack: boolean;
}

/** How a snapshot stands to its devices: quiet unless it is there, on its way, or was changed. */
export function StateWord({ state, progress, isBlack }: Props) {
  const word = words[String(state)] ?? 'Not known';
  const tone =
    state === 'there' || state === 'moving'
      ? 'border-l-4 border-accent pl-2 font-semibold'
      : state === 'changed'
        ? 'border-l-4 border-warning pl-2 font-semibold'
        : 'pl-3 text-ink-soft';
  return (
    <span className="grid gap-0.5 text-[14px]">
      <span className={tone}>
        {word}
        {state === 'moving' && ` ${progress} %`}
      </span>
      {isBlack && <span className="border-l-4 border-warning pl-2 text-[13px]">Shows only black</span>}
    </span>
  );
}
