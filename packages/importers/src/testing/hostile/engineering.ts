import { bytesOf, entriesOf, times, type Entry, type HostileFile } from './hostile-file.ts';

const head = (schema: string): string =>
  `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('','2026-11-25T00:00:00',(''),(''),'','','');\nFILE_SCHEMA(('${schema}'));\nENDSEC;\nDATA;\n`;
const entries = (fileName: string, schema: string): Entry<string> =>
  entriesOf(fileName, (data) => bytesOf(`${head(schema)}${data}\nENDSEC;\nEND-ISO-10303-21;\n`));
const [ifc, step] = [entries('Hostile.ifc', 'IFC4'), entries('Hostile.step', 'AUTOMOTIVE_DESIGN')];
const unknownIfc = entries('Hostile.ifc', 'IFC9');
const project = `#1=IFCPROJECT('0aaaaaaaaaaaaaaaaaaaa1',$,'Kelpie Sound',$,$,$,$,(#10),#20);
#10=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05,#11,$);
#11=IFCAXIS2PLACEMENT3D(#12,$,$);
#12=IFCCARTESIANPOINT((0.,0.,0.));
#20=IFCUNITASSIGNMENT((#21));
#21=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
`;
const wall = (placement: string, representation: string): string =>
  `#50=IFCWALL('0aaaaaaaaaaaaaaaaaaaa8',$,'Wall',$,$,${placement},${representation},'W',$);\n`;

/** Engineering models in the exchange structure of ISO 10303-21: IFC and STEP. */
export const hostileEngineering: readonly HostileFile[] = [
  ifc(
    'placements in a ring',
    'nothing-to-draw',
    () => `${project}#30=IFCLOCALPLACEMENT(#31,#11);\n#31=IFCLOCALPLACEMENT(#30,#11);\n${wall('#30', '$')}`,
  ),
  ifc(
    'a part that contains itself',
    'nothing-to-draw',
    () => `${project}${wall('$', '$')}#60=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaaa5',$,$,$,#50,(#50));\n`,
  ),
  ifc('references to what isn’t there', 'nothing-to-draw', () => `${project}${wall('#900', '#901')}`),
  ifc(
    'a profile of no size, pulled to no height',
    'nothing-to-draw',
    () =>
      `${project}${wall('$', '#52')}#52=IFCPRODUCTDEFINITIONSHAPE($,$,(#53));
#53=IFCSHAPEREPRESENTATION(#10,'Body','SweptSolid',(#54));
#54=IFCEXTRUDEDAREASOLID(#55,#11,#58,0.);
#55=IFCRECTANGLEPROFILEDEF(.AREA.,$,$,0.,0.);
#58=IFCDIRECTION((0.,0.,0.));
`,
  ),
  ifc(
    'brackets a hundred thousand deep',
    'nothing-to-draw',
    () => `${project}#50=IFCWALL(${'('.repeat(100_000)}${')'.repeat(100_000)});\n`,
  ),
  ifc('lines without an end', 'damaged-file', () => `${project}#50=IFCWALL('${'x'.repeat(5_000_000)}`),
  unknownIfc('a schema that is none', 'damaged-file', () => project),
  step(
    'a product that is made of itself',
    'damaged-file',
    () =>
      `#1=PRODUCT('P','P','',(#2));\n#2=PRODUCT_CONTEXT('',#3,'');\n#3=APPLICATION_CONTEXT('');\n#4=PRODUCT_DEFINITION('','',#5,#2);\n#5=PRODUCT_DEFINITION_FORMATION('','',#1);\n#6=NEXT_ASSEMBLY_USAGE_OCCURRENCE('','','',#4,#4,$);`,
  ),
  step('brackets a hundred thousand deep', 'damaged-file', () => `#1=X(${'('.repeat(100_000)}${')'.repeat(100_000)});`),
  step('a hundred thousand points and no shape', 'damaged-file', () =>
    times(100_000, (i) => `#${i + 1}=CARTESIAN_POINT('',(${i}.,0.,0.));\n`),
  ),
];
