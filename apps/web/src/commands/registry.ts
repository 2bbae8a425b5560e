import type { Command } from './command.ts';
import { DIRECTION_COMMANDS } from './look/direction-commands.ts';
import { EDIT_COMMANDS } from './edit/edit-commands.ts';
import { INTERFERENCE_COMMANDS } from './measure/interference-commands.ts';
import { LEDGER_COMMANDS } from './measure/ledger-commands.ts';
import { SYSTEM_COMMANDS } from './measure/system-commands.ts';
import { MEASURE_COMMANDS } from './measure/measure-commands.ts';
import { NORMAL_COMMANDS } from './look/normal-commands.ts';
import { PANE_COMMANDS } from './look/pane-commands.ts';
import { PICKING_COMMANDS } from './pick/picking-commands.ts';
import { PICTURE_COMMANDS } from './keep/picture-commands.ts';
import { REFERENCE_COMMANDS } from './show/reference-commands.ts';
import { SAVED_VIEW_COMMANDS } from './keep/saved-view-commands.ts';
import { SECTION_COMMANDS } from './cut/section-commands.ts';
import { WHOLE_COMMANDS } from './cut/whole-commands.ts';
import { STYLE_COMMANDS } from './look/style-commands.ts';
import { VIEW_COMMANDS } from './look/view-commands.ts';
import { VISIBILITY_COMMANDS } from './show/visibility-commands.ts';

/** Every command of the workspace. */
export const COMMANDS: readonly Command[] = [
  ...VIEW_COMMANDS,
  ...DIRECTION_COMMANDS,
  ...NORMAL_COMMANDS,
  ...SAVED_VIEW_COMMANDS,
  ...PANE_COMMANDS,
  ...STYLE_COMMANDS,
  ...SECTION_COMMANDS,
  ...WHOLE_COMMANDS,
  ...VISIBILITY_COMMANDS,
  ...PICKING_COMMANDS,
  ...MEASURE_COMMANDS,
  ...LEDGER_COMMANDS,
  ...SYSTEM_COMMANDS,
  ...INTERFERENCE_COMMANDS,
  ...REFERENCE_COMMANDS,
  ...PICTURE_COMMANDS,
  ...EDIT_COMMANDS,
];

export function commandById(id: string): Command {
  const command = COMMANDS.find((c) => c.id === id);
  if (!command) throw new Error(`There is no command ${id}.`);
  return command;
}
