export { carriedBy, outputsOf, type Bus, type Carried, type Tri } from './carried';
export { displayParams, displaysOf, inputNames, readingsForNames, type DisplayNow } from './displays';
export { TallyNetwork, tallyOf, type Tally, type TallyChange, type TallySources } from './tally';
export { wordOf, type TallyWord } from './word';
