'use client';

import { wordsOf, type Mend, type Trouble } from '../../core/diagnosis';
import { Button } from '../kit';

interface Props {
  readonly trouble: Trouble;
  readonly mends?: readonly Mend[] | undefined;
  /** Left out where there is nothing to mend. */
  readonly onMend?: ((mend: Mend) => void) | undefined;
}

/** What is wrong with a connection, what it means, what to try, and what can be mended here. */
export function TroubleText({ trouble, mends = [], onMend }: Props) {
  const { title, means, tryNext } = wordsOf(trouble);
  return (
    <span className="mt-1 block max-w-[76ch]">
      <b>{title}.</b> {means} <span className="text-ink-soft">{tryNext}</span>
      {onMend && mends.length > 0 && (
        <span className="mt-2 flex flex-wrap gap-2">
          {mends.map((mend, n) => (
            <Button key={n} kind={n === 0 ? 'strong' : 'plain'} onClick={() => onMend(mend)}>
              {mendTitle(mend)}
            </Button>
          ))}
        </span>
      )}
    </span>
  );
}

function mendTitle(mend: Mend): string {
  switch (mend.do) {
    case 'port':
      return `Use port ${mend.port}`;
    case 'driver':
      return `Use the driver “${mend.title}”`;
    case 'option':
      return `Set ${mend.title} to ${mend.value}`;
    case 'enable':
      return 'Switch it on';
    case 'interrupt':
      return 'Interrupt the connection and test';
    case 'find':
      return 'Find it on the network';
  }
}
