'use client';

import { useState } from 'react';
import type { WrittenDocument } from '../../../core/learn';
import { Tabs } from '../../kit';
import { DeviceTab } from './device-tab';
import { FramesTab } from './frames-tab';
import { SamplesTab } from './samples-tab';
import { useBenchDocument } from './use-bench-document';
import { useFrames } from './use-frames';

type Tab = 'frames' | 'samples' | 'device';

interface Props {
  /** The document in the editor beside it. */
  readonly text: string;
  readonly onText: (text: string) => void;
}

/** The bench beside a driver document: bytes from the world, the document’s samples, and a device to try it at. */
export default function BenchPane({ text, onText }: Props) {
  const [tab, setTab] = useState<Tab>('frames');
  const document = useBenchDocument(text);
  const frames = useFrames(document.driver);
  const write = (next: WrittenDocument) => onText(JSON.stringify(next, undefined, 2));
  const failed = document.samples.filter(({ problems }) => problems.length > 0).length;
  const samples = document.samples.length;
  return (
    <section className="flex h-full min-h-0 flex-col pt-2" aria-label="Bench">
      <Tabs
        label="Bench"
        value={tab}
        onChange={setTab}
        tabs={[
          { id: 'frames', title: 'Frames' },
          { id: 'samples', title: samples === 0 ? 'Samples' : `Samples ${samples - failed}/${samples}` },
          { id: 'device', title: 'Device' },
        ]}
      >
        {tab === 'frames' && <FramesTab document={document} frames={frames} onDocument={write} />}
        {tab === 'samples' && <SamplesTab document={document} onDocument={write} />}
        {tab === 'device' && (
          <DeviceTab
            text={text}
            document={document}
            onBring={(material) => {
              frames.bring(material);
              setTab('frames');
            }}
          />
        )}
      </Tabs>
    </section>
  );
}
