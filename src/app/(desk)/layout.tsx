import type { ReactNode } from 'react';
import {
  installDriverAction,
  leaveServiceAction,
  putInServiceAction,
  redoAction,
  removeDriverAction,
  setPasswordAction,
  stepBackAction,
  undoAction,
} from '../actions';
import { historyAction, listBackupsAction, loadDemoAction, stageBackupAction, standinsAction } from '../show-actions';
import { chooseListenAction, giveCertificateAction, listenAction } from '../listen-actions';
import { DeskProviders } from '../../ui/desk';
import { DeskFrame } from '../../ui/frame';

const actions = {
  undo: undoAction,
  redo: redoAction,
  putInService: putInServiceAction,
  stepBack: stepBackAction,
  leaveService: leaveServiceAction,
  installDriver: installDriverAction,
  removeDriver: removeDriverAction,
  setPassword: setPasswordAction,
  listBackups: listBackupsAction,
  history: historyAction,
  stageBackup: stageBackupAction,
  standins: standinsAction,
  loadDemo: loadDemoAction,
  listen: listenAction,
  chooseListen: chooseListenAction,
  giveCertificate: giveCertificateAction,
};

export default function DeskLayout({ children }: { readonly children: ReactNode }) {
  return (
    <DeskProviders actions={actions}>
      <DeskFrame>{children}</DeskFrame>
    </DeskProviders>
  );
}
