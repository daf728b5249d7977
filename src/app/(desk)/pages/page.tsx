import { PagesScreen } from '../../../ui/editor';

export const metadata = { title: 'Pages · Sorrelfinch' };

export default function PagesPage() {
  return <PagesScreen page={undefined} />;
}
