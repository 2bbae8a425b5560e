import { migratePath } from '@bathyscope/core/model';
import { z } from 'zod';
import { carriedComponent, name, recordKind, type RecordKind } from './record-kind.ts';

/** What a component is called on the screen; the file stays as it is. */
export interface ComponentName {
  component: string;
  name: string;
}

export const componentName: RecordKind<ComponentName> = recordKind({
  name: 'component-name',
  version: 1,
  document: z.object({ component: z.string(), name }),
  // Before, paths could begin with the root's name.
  migrations: { 1: (old) => ({ ...old, component: migratePath(String(old['component'])) }) },
  key: ({ component }) => component,
  references: ({ component }) => [{ kind: 'component', component }],
  carried: carriedComponent,
  title: (given) => given.name,
});
