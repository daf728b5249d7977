'use client';

import type { CSSProperties, ReactNode } from 'react';
import type { ControlView, FaceView } from '../../core/live';
import { Icon } from './icon';
import { useNow } from '../live';
import { ageText } from '../parts';
import { LampBar, lampWords } from './lamp-bar';
import { SegmentText } from './segment-text';
import { ShownPart, shownWords } from './shown-part';

interface Props {
  readonly face: FaceView;
  readonly view: Pick<ControlView, 'tint' | 'icon' | 'picture' | 'badge'>;
  /** Shown on the tape below the label: the outcome of the last press. */
  readonly children?: ReactNode;
}

/** What a control shows: its lamp, and its label on a tape with icon, tint and the devices that it drives. */
export function Face({ face, view, children }: Props) {
  const label = textOf(face);
  const doubtful = face.segments.find((segment) => segment.doubt);
  const doubt = doubtful?.doubt;
  // The lamp says it in the same words, for what it is about.
  const lampDoubts = face.lamp.show === 'unknown' || face.lamp.show === 'stale';
  // A rule may show another icon or picture than the control's own.
  const icon = face.icon ?? view.icon;
  const picture = face.picture ?? view.picture;
  return (
    <>
      <LampBar lamp={face.lamp} />
      {face.shown && face.shown.kind !== 'bar' && <ShownPart shown={face.shown} />}
      <span className={`tape ${doubt ? `tape-${doubt}` : ''}`} data-tint={view.tint} data-picture={picture && true}>
        {picture && (
          <img
            className="face-picture pointer-events-none absolute inset-0 h-full w-full object-cover"
            src={`/pictures/${picture}`}
            alt=""
            draggable={false}
          />
        )}
        {icon && <Icon name={icon} />}
        <span
          className="tape-label"
          style={{ '--chars': charsOf(label), '--lines': /\s/.test(label) ? 2 : 1.25 } as CSSProperties}
        >
          {face.segments.map((segment, n) => (
            <SegmentText key={n} segment={segment} />
          ))}
        </span>
        {view.badge && <span className="badge">{view.badge}</span>}
        {face.barred && (
          <span className="barred absolute inset-x-0 bottom-0 h-5 border-t border-rule-strong text-[13px] leading-4.5 font-bold text-ink">
            barred
          </span>
        )}
        {doubt && !lampDoubts && <DoubtWord doubt={doubt} since={doubtful.since} />}
        {children}
      </span>
      {face.shown?.kind === 'bar' && <ShownPart shown={face.shown} />}
    </>
  );
}

/** How what the label says is not known, in a word. */
function DoubtWord({ doubt, since }: { readonly doubt: string; readonly since: number | undefined }) {
  const now = useNow();
  const age = doubt === 'stale' && since !== undefined && now > 0 ? ` ${ageText(now - since)}` : '';
  return (
    <span className="doubt-word absolute top-px left-0.75 px-1 text-[12px] font-bold text-ink">
      {doubt}
      {age}
    </span>
  );
}

/** The label as it is read. */
export const textOf = (face: FaceView | undefined): string => face?.segments.map(({ text }) => text).join('') ?? '';

/** A face in words, for those who do not see it. */
export function faceWords(face: FaceView, how: string): string {
  const doubt = face.segments.find((segment) => segment.doubt)?.doubt;
  return [
    textOf(face),
    lampWords(face.lamp),
    shownWords(face.shown),
    doubt ? `label ${doubt}` : '',
    face.barred ? 'barred' : '',
    face.runs ? 'runs' : '',
    how,
  ]
    .filter(Boolean)
    .join(', ');
}

/** About how many characters of usual width the wider of two lines has; the label's size is made to fit that. */
function charsOf(label: string): number {
  const longestWord = Math.max(0, ...label.split(/\s+/).map(widthOf));
  return Math.max(4, longestWord, Math.ceil(label.length / 2));
}

/** The width of a word in characters: “m” and “w” are about half as wide again as the others. */
const widthOf = (word: string): number => word.length + (word.match(/[mw]/gi)?.length ?? 0) * 0.6;
