/** tsx marks functions by a helper that the page lacks. */
export const HELPER = 'globalThis.__name = (f) => f';

export const LAUNCH = { executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-quic', '--use-gl=angle', '--use-angle=gl-egl', '--ignore-gpu-blocklist'] };
