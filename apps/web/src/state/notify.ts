/** What a notice may hold beside its sentence. */
export interface NoticeOptions {
  /** One notice of a name stands at a time: the next takes its place. */
  id?: string;
  description?: string;
  /** ms; Infinity until it is dismissed. */
  duration?: number;
  action?: { label: string; onClick: () => void };
}

type Say = (message: string, options?: NoticeOptions) => void;
type Failed = (error: unknown, options?: NoticeOptions) => void;

/** Tells whoever uses the program something in passing. What shows it is given from outside. */
export type Notify = Say & {
  success: Say;
  warning: Say;
  error: Say;
  failed: Failed;
  dismiss: (id: string) => void;
};

/** For what is not on the screen. */
export const NOTIFY_NOBODY: Notify = Object.assign(() => {}, {
  success: () => {},
  warning: () => {},
  error: () => {},
  failed: () => {},
  dismiss: () => {},
});
