import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconButton } from './IconButton.tsx';

interface Props {
  open: boolean;
  close: () => void;
  /** With one there is a line with it and a cross; without, what is inside has its own `DialogTitle`. */
  title?: string;
  /** Classes for its size, also for how high it may be at most. */
  className: string;
  children: ReactNode;
}

/** A window over the page that Esc, its cross and a click beside it close. */
export function Window({ open, close, title, className, children }: Props) {
  return (
    <Dialog open={open} onClose={close} className="relative z-50">
      <div className="fixed inset-0 bg-black/30" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-6">
        <DialogPanel
          className={`rounded-lg border border-border bg-panel p-5 text-ink shadow-card ${className}`}
        >
          {title && (
            <div className="mb-3 flex items-center">
              <DialogTitle className="flex-1 text-lg font-semibold">{title}</DialogTitle>
              <IconButton icon={X} label="Close" onClick={close} />
            </div>
          )}
          {children}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
