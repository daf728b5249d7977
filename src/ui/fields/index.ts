export { CommandPicker } from './command-picker';
export { CommandRow } from './command-row';
export { ParamField } from './param-field';
export { PayloadField } from './payload-field';
export { ReadingPicker } from './reading-picker';
export { RigFactsContext, useRigFacts, type RigFacts } from './rig-facts';
export { useReadingChoices } from './use-reading-choices';
