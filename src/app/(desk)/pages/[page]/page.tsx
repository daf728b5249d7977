import { PagesScreen } from '../../../../ui/editor';

export const metadata = { title: 'Page · Sorrelfinch' };

interface Props {
  readonly params: Promise<{ readonly page: string }>;
  readonly searchParams: Promise<{ readonly edit?: string; readonly control?: string }>;
}

export default async function OnePage({ params, searchParams }: Props) {
  const { page } = await params;
  const { edit, control } = await searchParams;
  return <PagesScreen key={page} page={page} edit={edit !== undefined} control={control} />;
}
