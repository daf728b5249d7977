'use client';

import { create } from 'zustand';
import { Confirm } from '../kit';
import { useLive } from '../live';

/** Whether somebody has asked to rehearse and has not said yet that it is meant. */
const useAsked = create<{ readonly asked: boolean }>(() => ({ asked: false }));
export const askToRehearse = () => useAsked.setState({ asked: true });

/** A rehearsal lets every device go: it is asked once whether that is meant. */
export function RehearseDialog() {
  const asked = useAsked((state) => state.asked);
  const live = useLive();
  return (
    <Confirm
      title="Rehearse with stand-ins?"
      act="Disconnect and rehearse"
      cancel="Stay"
      open={asked}
      onOpenChange={(open) => useAsked.setState({ asked: open })}
      onAct={() => live.setAim('rehearse')}
    >
      Every device is disconnected and replaced by a private stand-in on this computer. All panels say that this is a
      rehearsal. The devices stay as they are until the aim is live again.
    </Confirm>
  );
}
