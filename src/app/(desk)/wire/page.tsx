import { WireScreen } from '../../../ui/wire';

export const metadata = { title: 'Wire · Sorrelfinch' };

export default function WirePage() {
  return <WireScreen />;
}
