import { DriversScreen } from '../../../ui/drivers';

export const metadata = { title: 'Drivers · Sorrelfinch' };

export default function DriversPage() {
  return <DriversScreen />;
}
