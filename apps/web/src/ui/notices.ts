import { messageOf } from '@bathyscope/core/tables';
import { toast as shown, type ExternalToast } from 'sonner';

/**
 * Says something at the foot of the window; `id` in the options is a name, under which one
 * notice stands at a time.
 */
export const toast = notices();

function notices() {
  /** By name: how many notices under it have begun to go. */
  const gone = new Map<string | number, number>();
  const goneOf = (name: string | number): number => gone.get(name) ?? 0;
  const idOf = (name: string | number): string => `${name} ${goneOf(name)}`;
  /**
   * A notice that is there says the new thing; one that is just fading away would take it
   * along, so it gets a successor.
   */
  const inPlace = (options: ExternalToast = {}): ExternalToast => {
    const { id } = options;
    if (id === undefined) return options;
    const before = goneOf(id);
    const goes = () => void gone.set(id, before + 1);
    return { ...options, id: idOf(id), onAutoClose: goes, onDismiss: goes };
  };
  return Object.assign((message: string, options?: ExternalToast) => void shown(message, inPlace(options)), {
    success: (message: string, options?: ExternalToast) => void shown.success(message, inPlace(options)),
    warning: (message: string, options?: ExternalToast) => void shown.warning(message, inPlace(options)),
    error: (message: string, options?: ExternalToast) => void shown.error(message, inPlace(options)),
    /** Something that was thrown. */
    failed: (error: unknown, options?: ExternalToast) => void shown.error(messageOf(error), inPlace(options)),
    promise: shown.promise,
    dismiss: (name: string | number): void => {
      shown.dismiss(idOf(name));
      gone.set(name, goneOf(name) + 1);
    },
  });
}
