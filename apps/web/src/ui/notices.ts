import { toast as shown, type ExternalToast } from 'sonner';
import { v4 as uuid } from 'uuid';

/** A notice that has a name takes the place of the one before under that name. Each is a new one to the library, which drops what comes for a notice that is just fading away. */
function inPlace(options: ExternalToast = {}): ExternalToast {
  if (options.id === undefined) return options;
  dismiss(options.id);
  return { ...options, id: `${options.id} ${uuid()}` };
}

function dismiss(name: string | number): void {
  for (const { id } of shown.getToasts()) if (String(id).replace(/ [^ ]+$/, '') === String(name)) shown.dismiss(id);
}

/** Says something at the foot of the window; `id` in the options is a name, under which one notice stands at a time. */
export const toast = Object.assign((message: string, options?: ExternalToast) => void shown(message, inPlace(options)), {
  success: (message: string, options?: ExternalToast) => void shown.success(message, inPlace(options)),
  warning: (message: string, options?: ExternalToast) => void shown.warning(message, inPlace(options)),
  error: (message: string, options?: ExternalToast) => void shown.error(message, inPlace(options)),
  promise: shown.promise,
  dismiss,
});
