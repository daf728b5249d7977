import { ShowScreen } from '../../../ui/show';

export const metadata = { title: 'Show · Sorrelfinch' };

export default function ShowPage() {
  return <ShowScreen />;
}
