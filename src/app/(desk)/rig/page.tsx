import { RigScreen } from '../../../ui/rig';

export const metadata = { title: 'Rig · Sorrelfinch' };

interface Props {
  readonly searchParams: Promise<{ readonly device?: string }>;
}

export default async function RigPage({ searchParams }: Props) {
  const { device } = await searchParams;
  return <RigScreen key={device} device={device} />;
}
