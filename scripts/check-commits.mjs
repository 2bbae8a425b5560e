// Whether commit messages are as CONTRIBUTING.md has them: a subject of at most 72 characters, no more than a
// line, the reason in the body.
import { execFileSync } from 'node:child_process';

/** Of those there are; a copy without its history has none to check. */
const NEWEST = 10;
const LONGEST = 72;

let log = '';
try {
  log = execFileSync('git', ['log', `-${NEWEST}`, '--no-merges', '--format=%h%x1f%s%x1f%b%x1e'], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'ignore'],
  });
} catch {
  process.exit(0);
}
const wrong = log.split('\x1e').flatMap((entry) => {
  const [commit, subject, body = ''] = entry.trim().split('\x1f');
  if (!subject) return [];
  return [
    ...(subject.length > LONGEST
      ? [`${commit} has a subject of ${subject.length} characters, at most ${LONGEST} are read: ${subject}`]
      : []),
    ...(body.trim() ? [] : [`${commit} does not say why: ${subject}`]),
  ];
});
if (wrong.length) {
  console.error(wrong.join('\n'));
  process.exit(1);
}
