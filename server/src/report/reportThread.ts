/** The thread in which a report is computed and set: a second's work that keeps nobody else waiting. */
import { parentPort } from 'node:worker_threads';
import { pdfOf } from './pdf.js';
import { reportFor, type ReportOrder } from './reportFor.js';

// parentPort!: this file is a thread.

parentPort!.on('message', (order: ReportOrder) => {
  Promise.resolve()
    .then(() => pdfOf(reportFor(order), order.letterhead))
    .then(
      (pdf) => parentPort!.postMessage({ pdf }),
      (error: Error) => parentPort!.postMessage({ problem: error.stack ?? error.message }),
    );
});
