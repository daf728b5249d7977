'use client';

import Link from 'next/link';
import { Button, buttonClass } from '../kit';
import { useDesk } from '../desk';

/** An empty show: the ways to begin. */
export function FirstSteps({ onFind, onAdd }: { readonly onFind: () => void; readonly onAdd: () => void }) {
  const desk = useDesk();
  return (
    <section className="max-w-[70ch] py-4" aria-labelledby="first-title">
      <h2 id="first-title">Nothing is patched yet</h2>
      <p>A device is one thing that is controlled: a switcher, a camera, an encoder. Begin with one of these:</p>
      <p className="mt-2.5 mb-4.5 flex flex-wrap gap-2">
        <Button kind="strong" onClick={onFind}>
          Find what is on the network
        </Button>
        <Button onClick={onAdd}>Add a device by hand</Button>
        <Link className={buttonClass()} href="/show">
          Load a show or a rig template
        </Link>
        <Button onClick={() => void desk.loadDemo()}>Look at the demo show</Button>
      </p>
    </section>
  );
}
