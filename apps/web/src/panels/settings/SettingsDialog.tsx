import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react';
import { useStore } from 'zustand';
import { DisplaySettings } from './DisplaySettings.tsx';
import { GestureSettings } from './GestureSettings.tsx';
import { KeySettings } from './KeySettings.tsx';
import { ProfileSettings } from './ProfileSettings.tsx';
import { Window } from '../../ui/Window.tsx';
import { useWorkspace } from '../use-workspace.ts';

const TABS = [
  ['Gestures', GestureSettings],
  ['Keys', KeySettings],
  ['Display', DisplaySettings],
  ['Profile', ProfileSettings],
] as const;

export function SettingsDialog() {
  const ws = useWorkspace();
  const open = useStore(ws.dialog, (s) => s.open === 'settings');
  const close = () => ws.dialog.setState({ open: null });
  return (
    <Window
      open={open}
      close={close}
      title="Settings"
      className="flex h-full max-h-[680px] w-full max-w-3xl flex-col"
    >
      <TabGroup className="flex min-h-0 flex-1 flex-col">
        <TabList className="flex gap-4 border-b border-line">
          {TABS.map(([name]) => (
            <Tab
              key={name}
              className="-mb-px border-b-2 border-transparent py-1.5 text-soft data-selected:border-blue data-selected:font-semibold data-selected:text-blue"
            >
              {name}
            </Tab>
          ))}
        </TabList>
        <TabPanels className="min-h-0 flex-1 overflow-y-auto pt-4">
          {TABS.map(([name, Content]) => (
            <TabPanel key={name}>
              <Content />
            </TabPanel>
          ))}
        </TabPanels>
      </TabGroup>
    </Window>
  );
}
