import { savedView } from '@bathyscope/contracts/records';
import { useStore } from 'zustand';
import { recordById } from '../../state/record-store.ts';
import { useWorkspace } from '../use-workspace.ts';

/** The picture of a saved view; nothing while there is none. */
export function ViewPicture({ id }: { id: string }) {
  const picture = useStore(useWorkspace().records, (state) => recordById(state, savedView.name, id)?.picture);
  return picture ? <img src={picture} alt="" className="size-full object-cover" /> : null;
}
