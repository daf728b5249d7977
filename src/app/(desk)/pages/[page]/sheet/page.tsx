import { SheetScreen } from '../../../../../ui/editor';

export const metadata = { title: 'Page sheet · Sorrelfinch' };

interface Props {
  readonly params: Promise<{ readonly page: string }>;
}

export default async function SheetPage({ params }: Props) {
  const { page } = await params;
  return <SheetScreen page={page} />;
}
