export { explanationSchema, type Explanation, type Moment } from './explanation';
export { explainLines, tryNextOf, type ExplainLine } from './lines';
