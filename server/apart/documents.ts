/** Work on documents: at once where they are small, apart where it would hold other requests up. */
import { changeDocument, planRenders, tryValues } from './work/document.ts';
import { apart } from './apart.ts';

export interface DocumentWork {
  changeDocument: Asynchronous<typeof changeDocument>;
  planRenders: Asynchronous<typeof planRenders>;
  tryValues: Asynchronous<typeof tryValues>;
}
type Asynchronous<F extends (input: never) => unknown> = (input: Parameters<F>[0]) => Promise<ReturnType<F>>;

/** Characters; a document of so many is read and checked within some tens of milliseconds. */
const SMALL = 400_000;

/** For a process that may take its time. */
export const documentsHere: DocumentWork = {
  changeDocument: async (input) => changeDocument(input),
  planRenders: async (input) => planRenders(input),
  tryValues: async (input) => tryValues(input),
};

export const largeDocumentsApart: DocumentWork = {
  changeDocument: async (input) =>
    input.document.length <= SMALL ? changeDocument(input) : apart('changeDocument', input),
  planRenders: async (input) => (input.document.length <= SMALL ? planRenders(input) : apart('planRenders', input)),
  tryValues: async (input) => (input.document.length <= SMALL ? tryValues(input) : apart('tryValues', input)),
};
