import { MacrosScreen } from '../../../../ui/macros';

export const metadata = { title: 'Macro · Sorrelfinch' };

export default async function OneMacro({ params }: { readonly params: Promise<{ readonly macro: string }> }) {
  const { macro } = await params;
  return <MacrosScreen key={macro} macro={macro} />;
}
