import { createContext, useContext } from 'react';
import type { Profile } from '../workspace/workspace.ts';

export const ProfileContext = createContext<Profile | null>(null);

/** What the user set about the interface; one for the page. */
export function useProfile(): Profile {
  const profile = useContext(ProfileContext);
  if (!profile) throw new Error('The page has no profile.');
  return profile;
}
