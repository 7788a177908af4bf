/** The thread in which a report is computed and set: a second's work that keeps nobody else waiting. */
import { parentPort } from 'node:worker_threads';
import { printReport, type ReportOrder } from './printReport.js';

parentPort!.on('message', (order: ReportOrder) => {
  printReport(order).then(
    (pdf) => parentPort!.postMessage({ pdf }),
    (error: Error) => parentPort!.postMessage({ problem: error.stack ?? error.message }),
  );
});
