import { RigScreen } from '../../../ui/rig';

export const metadata = { title: 'Rig · Sorrelfinch' };

export default function RigPage() {
  return <RigScreen />;
}
