import { useEffect } from 'react';
import type { Workspace } from '../../workspace/workspace.ts';

/** Windows in which the panel covers the scene, and in which the strip takes a line only. */
const NARROW = '(max-width: 899px)';
const SMALL = '(max-width: 899px), (max-height: 619px)';

/** Folds the panel and the strip while the window has little room; choosing a task unfolds the panel. */
export function useFold(ws: Workspace): void {
  useEffect(() => {
    const [narrow, small] = [window.matchMedia(NARROW), window.matchMedia(SMALL)];
    const fold = () => ws.mode.setState({ panelFolded: narrow.matches, stripFolded: small.matches });
    fold();
    narrow.addEventListener('change', fold);
    small.addEventListener('change', fold);
    const off = ws.profile.subscribe((now, before) => {
      if (now.task !== before.task) ws.mode.setState({ panelFolded: false });
    });
    return () => {
      narrow.removeEventListener('change', fold);
      small.removeEventListener('change', fold);
      off();
    };
  }, [ws]);
}
