import { HealthScreen } from '../../../ui/health';

export const metadata = { title: 'Health · Sorrelfinch' };

export default function HealthPage() {
  return <HealthScreen />;
}
