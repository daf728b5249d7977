export { ExchangeLines } from './exchange-lines';
export { ExplainButton } from './explain-button';
export { PressAccount } from './press-account';
export { useMeanings } from './use-meanings';
