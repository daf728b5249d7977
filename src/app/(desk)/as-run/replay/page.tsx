import { ReplayPage } from '../../../../ui/replay';

export const metadata = { title: 'Replay · Sorrelfinch' };

export default function Page() {
  return <ReplayPage />;
}
