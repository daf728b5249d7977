import { MacrosScreen } from '../../../ui/macros';

export const metadata = { title: 'Macros · Sorrelfinch' };

export default function MacrosPage() {
  return <MacrosScreen macro={undefined} />;
}
