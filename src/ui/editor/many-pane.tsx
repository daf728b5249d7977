'use client';

import { retargetEdit } from '../../core/page';
import { devicesOf, type ControlRecord } from '../../core/show';

import { AlikeFields } from './alike-fields';
import { FaceFields } from './face-fields';
import { PastePart } from './part-clip';
import { Retarget } from './retarget';
import { useFacts } from './facts';
import { Button } from '../kit';
import { useVerbs } from './verbs';

/** Several controls at once. */
export function ManyPane({ controls }: { readonly controls: readonly ControlRecord[] }) {
  const verbs = useVerbs();
  const facts = useFacts();
  return (
    <div className="form">
      <h2>{controls.length} controls</h2>
      <AlikeFields controls={controls} />
      <FaceFields controls={controls} />
      <Retarget
        from={[...new Set(controls.flatMap(({ data }) => devicesOf(data)))]}
        act="Re-target"
        onRetarget={(from, to) => {
          const title = `Re-target ${controls.length} controls to ${to.data.tag}`;
          const { edit, lost } = retargetEdit(controls, from, to, facts, title);
          if (edit) void verbs.edit(edit).then(() => lost.length > 0 && verbs.say(lostText(to.data.tag, lost), true));
        }}
      />
      <div className="col-span-full flex flex-wrap gap-2.5">
        <Button onClick={verbs.makeZone}>Make them a zone</Button>
        <Button onClick={verbs.duplicate}>Duplicate</Button>
        <Button onClick={verbs.clear}>Clear</Button>
        <PastePart controls={controls} />
      </div>
    </div>
  );
}

export const lostText = (tag: string, lost: readonly string[]): string =>
  `${tag} has no ${lost.join(', ')}. The controls that send it are marked until they are fixed.`;
