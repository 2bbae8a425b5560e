import { Dialog, DialogPanel, DialogTitle, Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/react';
import { X } from 'lucide-react';
import { useStore } from 'zustand';
import { IconButton } from '../../ui/IconButton.tsx';
import { DisplaySettings } from './DisplaySettings.tsx';
import { GestureSettings } from './GestureSettings.tsx';
import { KeySettings } from './KeySettings.tsx';
import { useWorkspace } from '../use-workspace.ts';

const TABS = [
  ['Gestures', GestureSettings],
  ['Keys', KeySettings],
  ['Display', DisplaySettings],
] as const;

export function SettingsDialog() {
  const ws = useWorkspace();
  const open = useStore(ws.dialog, (s) => s.open === 'settings');
  const close = () => ws.dialog.setState({ open: null });
  return (
    <Dialog open={open} onClose={close} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-6">
        <DialogPanel className="flex h-full max-h-[680px] w-full max-w-3xl flex-col rounded-lg border border-border bg-panel text-ink shadow-card">
          <div className="flex items-center px-5 pt-4">
            <DialogTitle className="flex-1 text-lg font-semibold">Settings</DialogTitle>
            <IconButton icon={X} label="Close" onClick={close} />
          </div>
          <TabGroup className="flex min-h-0 flex-1 flex-col">
            <TabList className="flex gap-4 border-b border-line px-5">
              {TABS.map(([name]) => (
                <Tab
                  key={name}
                  className="-mb-px border-b-2 border-transparent py-1.5 text-soft data-selected:border-blue data-selected:font-semibold data-selected:text-blue"
                >
                  {name}
                </Tab>
              ))}
            </TabList>
            <TabPanels className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
              {TABS.map(([name, Content]) => (
                <TabPanel key={name}>
                  <Content />
                </TabPanel>
              ))}
            </TabPanels>
          </TabGroup>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
