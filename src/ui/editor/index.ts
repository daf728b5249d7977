export { CommandSelect } from './command-select';
export { CommitInput } from './commit-input';
export { ConditionFields } from './condition-fields';
export { RigFactsContext, useRigFacts, type RigFacts } from './facts';
export { PagesScreen } from './pages-screen';
export { ParamField } from './param-field';
export { PayloadField } from './payload-field';
export { SheetScreen } from './sheet-screen';
