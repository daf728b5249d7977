export { ownDevice, ownDocument, ownDocumentFor, ownDocumentOf, ownId } from './document';
export { glideCurveTitles, snapshotCalled } from './snapshots';
export { variableOrders, variableReading, type VariableOrder, type VariableVerb } from './variables';
