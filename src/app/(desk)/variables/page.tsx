import { VariablesScreen } from '../../../ui/variables';

export const metadata = { title: 'Variables · Sorrelfinch' };

export default function VariablesPage() {
  return <VariablesScreen />;
}
