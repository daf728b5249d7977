import { WatchesScreen } from '../../../ui/watches';

export const metadata = { title: 'Watches · Sorrelfinch' };

export default async function WatchesPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly open?: string | readonly string[] }>;
}) {
  const { open } = await searchParams;
  return <WatchesScreen first={typeof open === 'string' ? open : undefined} />;
}
