import fs from 'node:fs';
import { measuringTable } from '@bathyscope/core/measure';

/* Writes the table of docs/MEASURING.md from the rules that decide. */
const file = new URL('../docs/MEASURING.md', import.meta.url);
const marked = /(<!-- table -->)[\s\S]*(<!-- end of table -->)/;
fs.writeFileSync(file, fs.readFileSync(file, 'utf8').replace(marked, `$1\n\n${measuringTable()}\n\n$2`));
