export { BurnInScreen } from './burn-in-screen';
export { LineCheckScreen } from './line-check-screen';
export { ReportScreen } from './report-screen';
