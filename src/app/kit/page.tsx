import { notFound } from 'next/navigation';
import { KitScreen } from '../../ui/kit-page';

export const metadata = { title: 'Kit · Sorrelfinch' };
export const dynamic = 'force-dynamic';

/** Shows every part of the kit to people who build screens: in development, and where `KIT_PAGE` is `on`. */
export default function KitPage() {
  if (process.env.NODE_ENV === 'production' && process.env.KIT_PAGE !== 'on') notFound();
  return <KitScreen />;
}
