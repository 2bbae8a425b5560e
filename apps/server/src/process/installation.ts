import os from 'node:os';
import { z } from 'zod';
import { HopelessStart } from './hopeless-start.ts';

const MB = 1024 * 1024;
/** Of the machine's memory, for one conversion; and MB that the kernel can address. */
const SHARE = 0.6;
const KERNEL_MOST = 4500;

/** A number within bounds, and what it is for, as whoever set it wrongly is told. */
const number = (what: string, least: number, most: number, usual: number) => {
  const wrong = `${what}: a number from ${least.toLocaleString('en')} to ${most.toLocaleString('en')}`;
  return z
    .string()
    .optional()
    .transform((text) => (text === undefined || text.trim() === '' ? usual : Number(text)))
    .pipe(z.number({ error: wrong }).min(least, { error: wrong }).max(most, { error: wrong }));
};

const PATH = /^\/((?!\.+\/)[A-Za-z0-9._~-]+\/)*$/;
const PATHS = 'the path that the server stands under, such as /bathyscope/; of letters, digits and . _ ~ -';
const PROXY = z.union([
  z.enum(['loopback', 'linklocal', 'uniquelocal']),
  z.ipv4(),
  z.ipv6(),
  z.cidrv4(),
  z.cidrv6(),
]);
const PROXIES =
  'the proxies that are believed who asks and how: addresses or networks with commas between, such as “10.0.0.1, 10.1.0.0/16”, or loopback';
/** What stands between commas. */
const list = (text: string): string[] =>
  text
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean);

const HOST = /^(\[[0-9a-f:.]+\]|[a-z0-9._-]+)$/;
const NAMES =
  'names that the server answers to, with commas between, such as “cad.local, 192.168.0.7”; without http:// and port';

const Settings = z.object({
  PORT: number('where the server listens', 1, 65_535, 4600),
  HOST: z.string().min(1).catch('127.0.0.1'),
  BATHYSCOPE_HOSTS: z
    .string()
    .optional()
    .transform((text) => list((text ?? 'localhost,127.0.0.1,[::1]').toLowerCase()))
    .pipe(z.array(z.string().regex(HOST, { error: NAMES })).min(1, { error: NAMES })),
  BATHYSCOPE_PROXY: z
    .string()
    .optional()
    .transform((text) => list(text ?? ''))
    .refine((proxies) => proxies.every((proxy) => PROXY.safeParse(proxy).success), { error: PROXIES }),
  BATHYSCOPE_BASE: z
    .string()
    .optional()
    .transform((text) => `/${(text ?? '').trim()}/`.replace(/\/+/g, '/'))
    .pipe(z.string().regex(PATH, { error: PATHS })),
  BATHYSCOPE_MAX_UPLOAD_MB: number('the largest file, MB', 1, 100_000, 500),
  BATHYSCOPE_UPLOAD_IDLE_S: number(
    'seconds without a byte after which an upload is given up',
    0.1,
    86_400,
    60,
  ),
  BATHYSCOPE_SILENCE_S: number(
    'seconds without progress after which a conversion is given up',
    0.1,
    86_400,
    180,
  ),
  BATHYSCOPE_CONVERSION_MIN: number('minutes after which a conversion is given up', 0.001, 10_000, 10),
  BATHYSCOPE_MEMORY_MB: number(
    'memory of a conversion, MB',
    1,
    1_000_000,
    Math.min(KERNEL_MOST, (SHARE * os.totalmem()) / MB),
  ),
  BATHYSCOPE_BIN_DAYS: number('days for which what was deleted can be put back', 1, 3650, 30),
  BATHYSCOPE_WEB: z.string().optional(),
  BATHYSCOPE_DEMO: z.string().optional(),
  BATHYSCOPE_DISK: z.string().optional(),
});

export type Installation = z.infer<typeof Settings>;

/**
 * What whoever runs the server has set in the environment. @throws HopelessStart with a sentence for each
 * value that cannot be
 */
export function installation(env: NodeJS.ProcessEnv = process.env): Installation {
  const read = Settings.safeParse(env);
  if (read.success) return read.data;
  const sentences = read.error.issues.map(
    ({ path, message }) => `${String(path[0])} is “${env[String(path[0])] ?? ''}”. It is ${message}.`,
  );
  throw new HopelessStart(`${[...new Set(sentences)].join('\n')}\nCorrect it and start again.`);
}

/** Where the server listens is any of the machine's own addresses. */
const ANYWHERE = ['0.0.0.0', '::', '127.0.0.1', '::1', 'localhost'];

/** An address at which the server answers on this machine. */
export function addressOf({
  PORT,
  HOST: at,
  BATHYSCOPE_HOSTS: names,
  BATHYSCOPE_BASE,
}: Installation): string {
  const own = ANYWHERE.includes(at) ? 'localhost' : at.includes(':') ? `[${at}]` : at;
  return `http://${names.includes(own) ? own : names[0]}:${PORT}${BATHYSCOPE_BASE}`;
}

let base: string | null = null;
/**
 * The path that the server stands under, begins and ends with a slash; read once, for it stands
 * in all that is answered.
 */
export const basePath = (): string => (base ??= installation().BATHYSCOPE_BASE);
