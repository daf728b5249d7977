import { PagesScreen } from '../../../../ui/editor';

export const metadata = { title: 'Page · Sorrelfinch' };

interface Props {
  readonly params: Promise<{ readonly page: string }>;
  readonly searchParams: Promise<{
    readonly edit?: string;
    readonly control?: string;
    readonly find?: string;
    readonly visit?: string;
  }>;
}

export default async function OnePage({ params, searchParams }: Props) {
  const { page } = await params;
  const { edit, control, find, visit } = await searchParams;
  return <PagesScreen key={page} page={page} edit={edit !== undefined} control={control} find={find} visit={visit} />;
}
