/** What a material is to an engineer's eye and hand; the groups in which it is offered. */
export const MATERIAL_FAMILIES = [
  'Steel',
  'Stainless steel',
  'Cast iron',
  'Aluminium',
  'Copper alloy',
  'Titanium',
  'Other metal',
  'Polymer',
  'Elastomer',
  'Composite',
  'Glass and ceramic',
  'Foam',
  'Wood',
  'Fluid',
] as const;
export type MaterialFamily = (typeof MATERIAL_FAMILIES)[number];

/** An engineering material, for weighing. */
export interface LibraryMaterial {
  id: string;
  name: string;
  family: MaterialFamily;
  /** kg/m³, at room temperature. */
  density: number;
  /** kg/m³: how far a delivered piece may be off to either side. */
  spread: number;
  source: string;
}

/*
 * Sources. All values are from memory of these and were not looked up; the spread is common practice for the
 * family. A part that matters is weighed, or its maker's sheet is taken.
 */
const EN10088 = 'EN 10088-1, annex A (from memory)';
const EN573 = 'alloy tables after EN 573-3 (from memory)';
const HANDBOOK = 'mechanical engineering handbooks (from memory)';
const MAKERS = 'common values of makers’ sheets (from memory)';
const EOS = 'seawater of salinity 35 at 15 °C, EOS-80 (Unesco 1983)';
const EOS_DEEP = 'seawater of salinity 34.7 at 2 °C and 611 bar, EOS-80 (Unesco 1983)';

type Row = readonly [id: string, name: string, density: number, spread: number, source?: string];

const family = (name: MaterialFamily, source: string, rows: readonly Row[]): LibraryMaterial[] =>
  rows.map(([id, title, density, spread, own]) => ({
    id,
    name: title,
    family: name,
    density,
    spread,
    source: own ?? source,
  }));

/** The library, by family and then by name as trade has it. */
export const MATERIALS: readonly LibraryMaterial[] = [
  ...family('Steel', HANDBOOK, [
    ['steel', 'Steel, unalloyed', 7850, 30],
    ['s235', 'Steel S235 (1.0038)', 7850, 30],
    ['s355', 'Steel S355 (1.0577)', 7850, 30],
    ['c45', 'Steel C45 (1.0503)', 7850, 30],
    ['42crmo4', 'Steel 42CrMo4 (1.7225)', 7830, 30],
    ['16mncr5', 'Case-hardening steel 16MnCr5 (1.7131)', 7850, 30],
    ['100cr6', 'Bearing steel 100Cr6 (1.3505)', 7810, 30],
    ['11smn30', 'Free-cutting steel 11SMn30 (1.0715)', 7850, 30],
    ['spring-steel', 'Spring steel 51CrV4 (1.8159)', 7850, 30],
    ['tool-steel', 'Tool steel X153CrMoV12 (1.2379)', 7700, 50],
  ]),
  ...family('Stainless steel', EN10088, [
    ['1.4301', 'Stainless steel 1.4301 (304)', 7900, 30],
    ['1.4305', 'Stainless steel 1.4305 (303)', 7900, 30],
    ['1.4401', 'Stainless steel 1.4401 (316)', 8000, 30],
    ['1.4404', 'Stainless steel 1.4404 (316L)', 8000, 30],
    ['1.4571', 'Stainless steel 1.4571 (316Ti)', 8000, 30],
    ['1.4462', 'Duplex steel 1.4462', 7800, 30],
    ['1.4410', 'Super duplex steel 1.4410', 7800, 30],
    ['1.4539', 'Stainless steel 1.4539 (904L)', 8000, 30],
    ['1.4542', 'Stainless steel 1.4542 (17-4 PH)', 7800, 30],
    ['1.4021', 'Stainless steel 1.4021 (420)', 7700, 30],
  ]),
  ...family('Cast iron', HANDBOOK, [
    ['gjl', 'Grey cast iron EN-GJL-250', 7200, 150],
    ['gjs', 'Ductile cast iron EN-GJS-400', 7100, 100],
    ['austenitic-iron', 'Austenitic cast iron', 7400, 100],
  ]),
  ...family('Aluminium', EN573, [
    ['al', 'Aluminium 99.5 (1050A)', 2705, 15],
    ['2024', 'Aluminium 2024', 2780, 15],
    ['5083', 'Aluminium 5083', 2660, 15],
    ['5754', 'Aluminium 5754', 2670, 15],
    ['6060', 'Aluminium 6060', 2700, 15],
    ['6061', 'Aluminium 6061', 2700, 15],
    ['6082', 'Aluminium 6082', 2700, 15],
    ['7075', 'Aluminium 7075', 2810, 15],
    ['alsi10mg', 'Cast aluminium AlSi10Mg', 2680, 30],
  ]),
  ...family('Copper alloy', HANDBOOK, [
    ['copper', 'Copper, Cu-ETP', 8930, 30],
    ['brass', 'Brass CuZn39Pb3', 8470, 50],
    ['cuzn37', 'Brass CuZn37', 8440, 40],
    ['tin-bronze', 'Tin bronze CuSn8', 8800, 60],
    ['gunmetal', 'Gunmetal CuSn5Zn5Pb5', 8800, 100],
    ['al-bronze', 'Aluminium bronze CuAl10Ni5Fe4', 7600, 60],
    ['cuni10', 'Copper-nickel CuNi10Fe1Mn', 8940, 40],
    ['beryllium-copper', 'Beryllium copper CuBe2', 8250, 60],
  ]),
  ...family('Titanium', HANDBOOK, [
    ['ti2', 'Titanium grade 2', 4510, 20],
    ['ti5', 'Titanium grade 5 (Ti-6Al-4V)', 4430, 20],
  ]),
  ...family('Other metal', HANDBOOK, [
    ['magnesium', 'Magnesium AZ91', 1810, 20],
    ['zinc', 'Zinc die casting ZP5', 6700, 60],
    ['lead', 'Lead', 11340, 60],
    ['tungsten', 'Tungsten heavy alloy', 17600, 500],
    ['nickel', 'Nickel', 8900, 40],
    ['alloy-625', 'Nickel alloy 625 (2.4856)', 8440, 40],
    ['alloy-400', 'Nickel alloy 400 (2.4360)', 8830, 40],
    ['feni36', 'Iron-nickel FeNi36', 8100, 60],
    ['tin', 'Tin', 7290, 30],
    ['silver', 'Silver', 10490, 40],
    ['gold', 'Gold', 19300, 60],
  ]),
  ...family('Polymer', MAKERS, [
    ['pe-hd', 'PE-HD', 955, 10],
    ['pe-uhmw', 'PE-UHMW', 935, 10],
    ['pp', 'PP', 905, 10],
    ['pa6', 'PA 6', 1140, 20],
    ['pa66-gf30', 'PA 66 with 30 % glass', 1370, 20],
    ['pom-c', 'POM-C', 1410, 20],
    ['pvc', 'PVC-U', 1400, 40],
    ['ptfe', 'PTFE', 2170, 40],
    ['peek', 'PEEK', 1310, 15],
    ['pc', 'PC', 1200, 10],
    ['pmma', 'PMMA', 1190, 10],
    ['abs', 'ABS', 1050, 20],
    ['pla', 'PLA', 1240, 20],
    ['pet', 'PET', 1380, 20],
    ['pei', 'PEI', 1270, 15],
    ['pi', 'Polyimide', 1420, 30],
    ['epoxy', 'Epoxy resin', 1180, 60],
    ['polyurethane', 'Polyurethane, cast', 1150, 80],
  ]),
  ...family('Elastomer', MAKERS, [
    ['nbr', 'NBR', 1250, 120],
    ['fkm', 'FKM', 1850, 120],
    ['epdm', 'EPDM', 1150, 100],
    ['vmq', 'Silicone rubber', 1200, 100],
    ['cr', 'Chloroprene rubber', 1350, 120],
    ['nr', 'Natural rubber', 1000, 80],
  ]),
  ...family('Composite', MAKERS, [
    ['cfrp', 'Carbon fibre laminate, 60 %', 1550, 60],
    ['gfrp', 'Glass fibre laminate, 50 %', 1900, 150],
    ['fr4', 'Circuit board laminate FR-4', 1850, 60],
    ['paper-laminate', 'Paper laminate', 1400, 60],
  ]),
  ...family('Glass and ceramic', MAKERS, [
    ['borosilicate', 'Borosilicate glass 3.3', 2230, 10],
    ['soda-lime', 'Soda-lime glass', 2500, 30],
    ['fused-silica', 'Fused silica', 2200, 5],
    ['sapphire', 'Sapphire', 3980, 10],
    ['alumina', 'Alumina 99.5 %', 3880, 50],
    ['zirconia', 'Zirconia, partly stabilised', 6050, 60],
    ['silicon-nitride', 'Silicon nitride', 3200, 60],
    ['silicon-carbide', 'Silicon carbide', 3150, 60],
    ['concrete', 'Concrete', 2400, 100],
  ]),
  ...family('Foam', MAKERS, [
    ['syntactic-light', 'Syntactic foam, light', 450, 40],
    ['syntactic-deep', 'Syntactic foam, for great depth', 650, 50],
    ['pu-foam', 'Polyurethane foam, hard', 80, 30],
    ['pvc-foam', 'PVC foam', 80, 20],
    ['eps', 'Polystyrene foam', 25, 10],
  ]),
  ...family('Wood', HANDBOOK, [
    ['spruce', 'Spruce', 450, 60],
    ['oak', 'Oak', 700, 80],
    ['beech', 'Beech', 720, 70],
    ['birch-ply', 'Birch plywood', 680, 50],
  ]),
  ...family('Fluid', HANDBOOK, [
    ['fresh-water', 'Fresh water', 998, 5],
    ['sea-water', 'Sea water', 1026, 5, EOS],
    ['sea-water-deep', 'Sea water at 6,000 m', 1055, 5, EOS_DEEP],
    ['hydraulic-oil', 'Hydraulic oil', 870, 30],
    ['silicone-oil', 'Silicone oil', 970, 20],
    ['air', 'Air', 1.2, 0.1],
  ]),
];

const BY_ID: ReadonlyMap<string, LibraryMaterial> = new Map(MATERIALS.map((m) => [m.id, m]));

export const materialById = (id: string): LibraryMaterial | undefined => BY_ID.get(id);
