export { carriedBy, outputsOf, type Bus, type Carried, type Tri } from './carried';
export { displayParams, displaysOf, inputNames, readingsForNames, type DisplayNow } from './displays';
export { readingsForTally, tallyOf, tallyReader, type Tally, type TallySources } from './tally';
export { wordOf, type TallyWord } from './word';
