import { derived } from '../workspace/derived/derived.ts';
import { plain } from './find-commands.ts';

/** What parts are searched by: there may be tens of thousands and the search is at every key. */
export const searchedNames = derived('the names that are searched', (ws) =>
  ws.model
    .getState()
    .occurrences.map((o) => ({ o, names: [o.name, ...(o.instanceName ? [o.instanceName] : [])].map(plain) })),
);
