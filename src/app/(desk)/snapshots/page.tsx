import { SnapshotsScreen } from '../../../ui/snapshots';

export const metadata = { title: 'Snapshots · Sorrelfinch' };

export default function SnapshotsPage() {
  return <SnapshotsScreen snapshot={undefined} />;
}
