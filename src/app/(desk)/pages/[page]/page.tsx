import { PagesScreen } from '../../../../ui/editor';

export const metadata = { title: 'Page · Sorrelfinch' };

export default async function OnePage({ params }: { readonly params: Promise<{ readonly page: string }> }) {
  const { page } = await params;
  return <PagesScreen page={page} />;
}
