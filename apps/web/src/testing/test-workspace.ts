import type { ModelDetail } from '@bathyscope/contracts';
import { createProfileState } from '../state/settings-store.ts';
import { createWorkspace } from '../workspace/create-workspace.ts';
import { fixtureSource } from '../workspace/fixture-source.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** A workspace without a page or a server, with nothing in it yet. */
export const testWorkspace = (): Workspace =>
  createWorkspace(fixtureSource({ id: 'fixture', name: 'Frame' } as ModelDetail), createProfileState());
