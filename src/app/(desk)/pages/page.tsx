import { PagesScreen } from '../../../ui/editor';

export const metadata = { title: 'Pages · Sorrelfinch' };

interface Props {
  readonly searchParams: Promise<{ readonly edit?: string; readonly find?: string }>;
}

export default async function PagesPage({ searchParams }: Props) {
  const { edit, find } = await searchParams;
  return <PagesScreen page={undefined} edit={edit !== undefined} find={find} />;
}
