import { SnapshotsScreen } from '../../../ui/snapshots';

export const metadata = { title: 'Snapshots · Sorrelfinch' };

type Given = string | readonly string[] | undefined;

export default async function SnapshotsPage({
  searchParams,
}: {
  readonly searchParams: Promise<{ readonly open?: Given; readonly take?: Given }>;
}) {
  const { open, take } = await searchParams;
  const one = (given: Given) => (typeof given === 'string' ? given : undefined);
  return <SnapshotsScreen first={one(open)} takeOf={one(take)} />;
}
