import { ReportScreen } from '../../../../ui/line-check';

export const metadata = { title: 'Line check report · Sorrelfinch' };

export default function LineCheckReportPage() {
  return <ReportScreen />;
}
