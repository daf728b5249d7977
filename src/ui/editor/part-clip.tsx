'use client';

import { create } from 'zustand';
import { controlParts, hasPart, withPartOf, type ControlPart } from '../../core/page';
import type { ControlRecord } from '../../core/show';
import { Button, Menu } from '../kit';
import { useVerbs, type Verbs } from './verbs';

type Data = ControlRecord['data'];

/** The part of a control that was copied last in this window. */
const usePartClip = create<{ readonly part?: ControlPart; readonly from?: Data; readonly name?: string }>(() => ({}));

/** Gives a part of one control to others in one edit, and says which cannot have it. */
export function givePart(
  verbs: Pick<Verbs, 'changeMany' | 'say'>,
  controls: readonly ControlRecord[],
  from: Data,
  part: ControlPart,
  name: string,
): void {
  const able = controls.filter(({ data }) => withPartOf(data, from, part) !== undefined);
  const unable = controls.length - able.length;
  if (able.length > 0) verbs.changeMany(able, (data) => withPartOf(data, from, part) ?? data, `The ${part} of ${name}`);
  if (unable > 0)
    verbs.say(
      `${unable === 1 ? 'One control keeps its' : `${unable} controls keep their`} ${part}: only controls of the same kind can have the same response.`,
      true,
    );
}

/** Copies only one part of a control, to be pasted onto others, also on another page. */
export function CopyOnly({ control, name }: { readonly control: ControlRecord; readonly name: string }) {
  const verbs = useVerbs();
  return (
    <Menu
      acts={controlParts
        .filter((part) => hasPart(control.data, part))
        .map((part) => ({
          title: `Its ${part}`,
          run: () => {
            usePartClip.setState({ part, from: control.data, name });
            verbs.say(`The ${part} of ${name} is copied. Choose controls and paste it.`);
          },
        }))}
    >
      <Button>Copy only …</Button>
    </Menu>
  );
}

/** Pastes the part that was copied onto what is chosen. */
export function PastePart({ controls }: { readonly controls: readonly ControlRecord[] }) {
  const verbs = useVerbs();
  const { part, from, name } = usePartClip();
  if (!part || !from || name === undefined) return null;
  return (
    <Button onClick={() => givePart(verbs, controls, from, part, name)}>
      Paste {part} of {name}
    </Button>
  );
}
