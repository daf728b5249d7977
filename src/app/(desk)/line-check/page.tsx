import { LineCheckScreen } from '../../../ui/line-check';

export const metadata = { title: 'Line check · Sorrelfinch' };

export default function LineCheckPage() {
  return <LineCheckScreen />;
}
