import { ReplayScreen } from '../../../../ui/replay';

export const metadata = { title: 'Replay · Sorrelfinch' };

export default function ReplayPage() {
  return <ReplayScreen />;
}
