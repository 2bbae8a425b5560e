import { compileKernel, loadKernel, inspectFile, selfTest } from '/work/main/packages/kernel/src/index.ts';
import fs from 'node:fs';
const k = await loadKernel(await compileKernel()); let t=performance.now(); selfTest(k); console.log('selftest',performance.now()-t);
const R=JSON.parse(fs.readFileSync('../shared/reference-cases.json','utf8')); const T='/work/main/node_modules/occt-import-js/test/testfiles/';
const dirs=fs.readdirSync(T); const find=n=>dirs.map(d=>T+d+'/'+n).find(fs.existsSync);
const rel=(a,b)=>Math.abs(a-b)/Math.max(1e-12,Math.abs(b));
for(const c of R.filter(c=>c.kind==='exact'&&/st(e)?p$/.test(c.path))) { const f=find(c.path.replace('shared/','')); if(!f){console.log('missing',c.path);continue;} t=performance.now(); const i=inspectFile(k,f);
 console.log(c.id,(performance.now()-t).toFixed(0),i.lengthUnit,c.unit_in_file,JSON.stringify(i.counts),JSON.stringify(c.counts),'V',rel(i.volume!,c.volume_mm3).toExponential(1),i.volumeBound,'A',rel(i.area,c.area_mm2).toExponential(1),'box',Math.max(...[0,1,2].flatMap(k=>[Math.abs(i.box!.min[k]-c.bbox_solids_mm.min[k]),Math.abs(i.box!.max[k]-c.bbox_solids_mm.max[k])])).toExponential(1),'cog',Math.max(...i.centreOfGravity!.map((x,k)=>Math.abs(x-c.cog_mm[k]))).toExponential(1),'I',Math.max(...[0,1,2].flatMap(r=>[0,1,2].map(k=>Math.abs(i.inertia![r][k]-c.inertia_cog_mm5[r][k])/c.inertia_cog_mm5[r][r]))).toExponential(1), i.warnings); }
