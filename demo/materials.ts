import type { DemoMaterial } from './step-writer.ts';

/** Densities: common practice (manufacturers' data sheets give these rounded values), g/cm³. */
export const MATERIALS = {
  bronze: { name: 'Nickel aluminium bronze CC333G', description: 'sea-water casting bronze', density: 7.6 },
  titanium: { name: 'Titanium Ti-6Al-4V', description: 'titanium alloy, annealed', density: 4.43 },
  duplex: { name: 'Stainless steel 1.4462', description: 'duplex stainless steel', density: 7.8 },
  a4: { name: 'Stainless steel A4-80', description: 'fastener grade', density: 8.0 },
  peek: { name: 'PEEK', description: 'polyether ether ketone, unfilled', density: 1.3 },
  nitrile: { name: 'NBR 70', description: 'nitrile rubber, 70 Shore A', density: 1.25 },
  aluminium: { name: 'Aluminium EN AW-6082', description: 'wrought aluminium, anodised', density: 2.7 },
  gear: { name: 'Steel 17CrNiMo6', description: 'case hardening steel', density: 7.83 },
  bearing: { name: 'Steel 100Cr6', description: 'bearing steel', density: 7.81 },
  spring: { name: 'Spring steel 1.4310', description: 'stainless spring steel', density: 7.9 },
  brass: { name: 'Brass CuZn39Pb3', description: 'free cutting brass', density: 8.47 },
  glass: { name: 'Borosilicate glass 3.3', description: 'sight glass', density: 2.23 },
} satisfies Record<string, DemoMaterial>;
