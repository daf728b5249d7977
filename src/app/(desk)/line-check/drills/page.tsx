import { DrillsScreen } from '../../../../ui/drills';

export const metadata = { title: 'Fault drills · Sorrelfinch' };

export default function DrillsPage() {
  return <DrillsScreen />;
}
