import { BurnInScreen } from '../../../../ui/line-check';

export const metadata = { title: 'Burn-in · Sorrelfinch' };

export default function BurnInPage() {
  return <BurnInScreen />;
}
