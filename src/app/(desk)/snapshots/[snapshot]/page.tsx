import { SnapshotsScreen } from '../../../../ui/snapshots';

export const metadata = { title: 'Snapshot · Sorrelfinch' };

export default async function OneSnapshot({ params }: { readonly params: Promise<{ readonly snapshot: string }> }) {
  const { snapshot } = await params;
  return <SnapshotsScreen snapshot={snapshot} />;
}
