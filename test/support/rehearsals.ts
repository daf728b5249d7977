import { orderOf, type Rehearsals } from '../../src/engine/aim/rehearsal';
import { Rehearsal } from '../../src/standins';

/** The stand-ins of a rehearsal in this process. */
export function rehearsalsHere(): Rehearsals & { readonly stop: () => Promise<void> } {
  let rehearsal: Rehearsal | undefined;
  const end = async () => {
    const ended = rehearsal;
    rehearsal = undefined;
    await ended?.stop();
  };
  return {
    arrange: (devices) => {
      rehearsal ??= new Rehearsal();
      return rehearsal.arrange(orderOf(devices));
    },
    end,
    stop: end,
  };
}
