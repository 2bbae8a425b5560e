import { Blocks, CircleStop, SearchCheck } from 'lucide-react';
import { openMeasure } from '../../workspace/keeping/change-settings.ts';
import { componentsBelow, shownName } from '../../workspace/shown/components.ts';
import { checkInterferences, stopInterferences } from '../../workspace/measuring/interferences.ts';
import { visiblePaths } from '../../workspace/shown/shown.ts';
import type { Workspace } from '../../workspace/workspace.ts';
import type { Command } from '../command.ts';

const TWO = 'It takes two components to clash.';
const few = (ws: Workspace): string | null => (ws.model.getState().components.length < 2 ? TWO : null);
const WORDS = ['interference', 'clearance', 'collision', 'overlap', 'contact', 'touching', 'fit'];

export const INTERFERENCE_COMMANDS: Command[] = [
  {
    id: 'clashes',
    name: 'Find clashes',
    group: 'Measure',
    icon: SearchCheck,
    searchWords: [...WORDS, 'check the assembly'],
    needs: 'nothing',
    refusal: (ws) =>
      few(ws) ??
      (visiblePaths(ws).length < 2 ? 'Show two components or more; what is hidden is not checked.' : null),
    run: (ws) => {
      openMeasure(ws, 'clashes');
      void checkInterferences(ws, 'all that is shown', visiblePaths(ws), null);
    },
  },
  {
    id: 'clashes-near',
    name: 'Find clashes with neighbours',
    group: 'Measure',
    icon: Blocks,
    searchWords: [...WORDS, 'what touches this'],
    needs: 'components',
    menu: 'thing',
    refusal: few,
    run: (ws, items) => {
      const { components } = ws.model.getState();
      const some = items.flatMap((i) => componentsBelow(ws, i.component));
      openMeasure(ws, 'clashes');
      void checkInterferences(
        ws,
        items.length === 1
          ? `${shownName(ws, items[0].component)} and what is near it`
          : `${items.length} components and what is near them`,
        components.map((c) => c.path),
        some,
      );
    },
  },
  {
    id: 'clashes-stop',
    name: 'Stop finding clashes',
    group: 'Measure',
    icon: CircleStop,
    searchWords: ['cancel the check'],
    needs: 'nothing',
    keepsMode: true,
    refusal: (ws) => (ws.interference.getState().running ? null : 'No check is running.'),
    run: (ws) => void stopInterferences(ws),
  },
];
