/** Says to whoever sits before the editor what could not be done. */
import { type Connection, MessageType, ShowMessageNotification } from 'vscode-languageserver/node';
import { messageOf } from '../core/problem/problem.ts';

/** A notification, as every editor takes it: requests to show a message are answered by some of them with an error. */
export function tellError(connection: Connection, error: unknown): void {
  const message = `Sguardo: ${messageOf(error)}`;
  connection.sendNotification(ShowMessageNotification.type, { type: MessageType.Error, message }).catch(() => {});
}
