'use client';

import { useState, type ReactNode } from 'react';
import { Button, buttonClass } from '../kit';
import { JoinPart } from './join-part';

interface Row {
  readonly tag: string;
  readonly name: string;
  /** What it says now. */
  readonly word: ReactNode;
  /** How many screens show it. */
  readonly screens: number;
}

interface Props {
  readonly title: string;
  readonly about: string;
  /** What is shown of each device, and the first part of its address after `/panel/`. */
  readonly shows: 'tally' | 'clock';
  /** What stands for the panel of such a screen. */
  readonly panel: string;
  readonly rights: string;
  /** What a screen of this kind is called. */
  readonly noun: 'phone' | 'screen';
  readonly rows: readonly Row[];
}

/** Devices of which a screen can show one thing all over, with the screens that do, and the way in for another. */
export function PurposeList({ title, about, shows, panel, rights, noun, rows }: Props) {
  const [open, setOpen] = useState<string>();
  if (rows.length === 0) return null;
  return (
    <section aria-label={title} className="mt-7">
      <h2>{title}</h2>
      <p className="text-ink-soft">{about}</p>
      <ul className="mt-2">
        {rows.map(({ tag, name, word, screens }) => (
          <li
            key={tag}
            aria-label={`${shows === 'tally' ? 'Tally' : 'Clock'} of ${tag}`}
            className="border-b border-rule py-1"
          >
            <div className="grid grid-cols-[64px_minmax(0,1fr)_minmax(96px,220px)_minmax(0,160px)_auto] items-center gap-x-4">
              <span className="font-mono font-semibold">{tag}</span>
              <span className="truncate">{name}</span>
              <span className="truncate">{word}</span>
              <span className="text-ink-soft">
                {screens === 0 ? `no ${noun}` : screens === 1 ? `1 ${noun}` : `${screens} ${noun}s`}
              </span>
              <span className="flex gap-2">
                <a className={buttonClass({ kind: 'ghost' })} href={`/panel/${shows}/${tag}`} target="_blank">
                  Open
                </a>
                <Button
                  kind="ghost"
                  aria-expanded={open === tag}
                  onClick={() => setOpen(open === tag ? undefined : tag)}
                >
                  Let a {noun} join
                </Button>
              </span>
            </div>
            {open === tag && <JoinPart panel={panel} query={`?${shows}=${tag}`} rights={rights} />}
          </li>
        ))}
      </ul>
    </section>
  );
}
