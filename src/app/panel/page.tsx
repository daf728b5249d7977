import { earlySocketScript } from '../../ui/live';
import { PanelScreen } from '../../ui/panel';

export const metadata = { title: 'Panel · Sorrelfinch' };
export const dynamic = 'force-static';

export default function PanelPage() {
  return (
    <>
      <script dangerouslySetInnerHTML={{ __html: earlySocketScript }} />
      <PanelScreen />
    </>
  );
}
