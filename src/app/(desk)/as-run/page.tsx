import { AsRunScreen } from '../../../ui/as-run';

export const metadata = { title: 'As-run · Sorrelfinch' };

export default function AsRunPage() {
  return <AsRunScreen />;
}
