'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { SplitPanes } from '../kit';
import { InstallDriver } from './install-driver';

const BenchPane = dynamic(() => import('./bench/bench-pane'), {
  ssr: false,
  loading: () => <p className="p-3 text-ink-soft">Fetching the bench …</p>,
});

interface Props {
  readonly title: string;
  /** What is in the editor at first. */
  readonly start: string;
  readonly installed?: string;
  readonly onDone: () => void;
}

/** A driver document in an editor, and beside it the bench on which it is made, tried and proved. */
export function Workbench({ start, ...props }: Props) {
  const [text, setText] = useState(start);
  return (
    <SplitPanes
      name="workbench"
      main={<InstallDriver {...props} text={text} onText={setText} />}
      side={<BenchPane text={text} onText={setText} />}
      sideSize="48%"
    />
  );
}
