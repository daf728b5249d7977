import { PanelsScreen } from '../../../ui/panels';

export const metadata = { title: 'Panels · Sorrelfinch' };

export default function PanelsPage() {
  return <PanelsScreen />;
}
