import { messageOf } from '@bathyscope/core/tables';
import type { ModelDetail } from '@bathyscope/contracts';
import { createProfileState } from '../state/settings-store.ts';
import { createWorkspace } from '../workspace/create-workspace.ts';
import { fixtureSource } from '../workspace/source/fixture-source.ts';
import type { Workspace } from '../workspace/workspace.ts';

/** The model of tests. */
export const FIXTURE = { id: '7a1f6f0e-7c55-4d6e-9a6d-3f1a2b4c5d6e', name: 'Frame' } as ModelDetail;

/**
 * A workspace without a page or a server, with nothing in it yet. @param told takes what it tells the user
 */
export const testWorkspace = (told: string[] = []): Workspace => {
  const say = (message: string) => void told.push(message);
  const notify = Object.assign(say, {
    success: say,
    warning: say,
    error: say,
    failed: (e: unknown) => say(messageOf(e)),
    dismiss: () => {},
  });
  return createWorkspace(fixtureSource(FIXTURE), createProfileState(), notify);
};
