import { InletsScreen } from '../../../ui/inlets';

export const metadata = { title: 'Inlets · Sorrelfinch' };

export default function InletsPage() {
  return <InletsScreen />;
}
