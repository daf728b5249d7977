export { ownDevice, ownDocument, ownDocumentFor, ownDocumentOf, ownId } from './document';
export { glideCurveTitles, snapshotCalled, snapshotParams } from './snapshots';
export { variableCommand, variableOrders, variableReading, type VariableVerb } from './variables';
