'use client';

import { AlertDialog } from 'radix-ui';
import { create } from 'zustand';
import { Button } from '../kit';
import { useLive } from '../live';

/** Whether somebody has asked to rehearse and has not said yet that it is meant. */
const useAsked = create<{ readonly asked: boolean }>(() => ({ asked: false }));
export const askToRehearse = () => useAsked.setState({ asked: true });

/** A rehearsal lets every device go: it is asked once whether that is meant. */
export function RehearseDialog() {
  const asked = useAsked((state) => state.asked);
  const live = useLive();
  return (
    <AlertDialog.Root open={asked} onOpenChange={(open) => useAsked.setState({ asked: open })}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-[rgb(0_0_0_/_55%)]" />
        <AlertDialog.Content className="fixed top-[20vh] left-1/2 z-41 grid w-[min(520px,92vw)] -translate-x-1/2 gap-3.5 border border-rule-strong bg-ground px-6 py-5 [&_h2]:text-[20px] [&_h2]:font-[650]">
          <AlertDialog.Title>Rehearse with stand-ins?</AlertDialog.Title>
          <AlertDialog.Description>
            Every device is disconnected and replaced by a private stand-in on this computer. All panels say that this
            is a rehearsal. The devices stay as they are until the aim is live again.
          </AlertDialog.Description>
          <div className="col-span-full flex flex-wrap gap-2.5">
            <AlertDialog.Cancel asChild>
              <Button>Stay</Button>
            </AlertDialog.Cancel>
            <AlertDialog.Action asChild>
              <Button kind="strong" onClick={() => live.setAim('rehearse')}>
                Disconnect and rehearse
              </Button>
            </AlertDialog.Action>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
