import { createRequire } from 'node:module';
import { dirname, sep } from 'node:path';
import * as webIfc from 'web-ifc';
import { IfcAPI, LogLevel } from 'web-ifc';
import { beforeAll, expect, it } from 'vitest';
import { SolidItems } from '@gull-pane/core/solid/solid-items';
import type { SolidObject, SolidPart } from '@gull-pane/core/solid/solid-model';
import { modelFormatOf } from '../model/model-head.ts';
import { ReadError } from '../read-error.ts';
import { ifcTypesOf } from './ifc-types.ts';
import { readIfc } from './read-ifc.ts';

const [E, N] = [412_600_000, 7_208_400_000];
/** Two walls of the pump hall in two storeys, one with properties and a system. */
const hall = `ISO-10303-21;
HEADER;
FILE_DESCRIPTION(('ViewDefinition [ReferenceView]'),'2;1');
FILE_NAME('hall.ifc','2026-11-25T00:00:00',('Kelpie Sound'),('Kelpie Sound'),'','','');
FILE_SCHEMA(('IFC4'));
ENDSEC;
DATA;
#1=IFCPROJECT('0aaaaaaaaaaaaaaaaaaaa1',$,'Kelpie Sound',$,$,$,$,(#10),#20);
#10=IFCGEOMETRICREPRESENTATIONCONTEXT($,'Model',3,1.E-05,#11,$);
#11=IFCAXIS2PLACEMENT3D(#12,$,$);
#12=IFCCARTESIANPOINT((0.,0.,0.));
#20=IFCUNITASSIGNMENT((#21));
#21=IFCSIUNIT(*,.LENGTHUNIT.,.MILLI.,.METRE.);
#30=IFCSITE('0aaaaaaaaaaaaaaaaaaaa2',$,'Site',$,$,#31,$,$,.ELEMENT.,$,$,$,$,$);
#31=IFCLOCALPLACEMENT($,#11);
#32=IFCBUILDING('0aaaaaaaaaaaaaaaaaaaa3',$,'Pump hall',$,$,#33,$,$,.ELEMENT.,$,$,$);
#33=IFCLOCALPLACEMENT(#31,#34);
#34=IFCAXIS2PLACEMENT3D(#35,$,$);
#35=IFCCARTESIANPOINT((${E}.,${N}.,0.));
#36=IFCBUILDINGSTOREY('0aaaaaaaaaaaaaaaaaaaa4',$,'Ground floor',$,$,#37,$,$,.ELEMENT.,0.);
#37=IFCLOCALPLACEMENT(#33,#11);
#38=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaaa5',$,$,$,#1,(#30));
#39=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaaa6',$,$,$,#30,(#32));
#40=IFCRELAGGREGATES('0aaaaaaaaaaaaaaaaaaaa7',$,$,$,#32,(#36));
#50=IFCWALL('0aaaaaaaaaaaaaaaaaaaa8',$,'South wall',$,$,#51,#52,'W-01',$);
#51=IFCLOCALPLACEMENT(#37,#11);
#52=IFCPRODUCTDEFINITIONSHAPE($,$,(#53));
#53=IFCSHAPEREPRESENTATION(#10,'Body','SweptSolid',(#54));
#54=IFCEXTRUDEDAREASOLID(#55,#11,#58,3000.);
#55=IFCRECTANGLEPROFILEDEF(.AREA.,$,#56,4000.,300.);
#56=IFCAXIS2PLACEMENT2D(#57,$);
#57=IFCCARTESIANPOINT((2000.,150.));
#58=IFCDIRECTION((0.,0.,1.));
#60=IFCRELCONTAINEDINSPATIALSTRUCTURE('0aaaaaaaaaaaaaaaaaaaa9',$,$,$,(#50),#36);
#70=IFCPROPERTYSET('0aaaaaaaaaaaaaaaaaaab1',$,'Pset_WallCommon',$,(#71));
#71=IFCPROPERTYSINGLEVALUE('FireRating',$,IFCLABEL('REI 90'),$);
#72=IFCRELDEFINESBYPROPERTIES('0aaaaaaaaaaaaaaaaaaab2',$,$,$,(#50),#70);
#80=IFCDISTRIBUTIONSYSTEM('0aaaaaaaaaaaaaaaaaaab3',$,'Sea water',$,$,$,$);
#81=IFCRELASSIGNSTOGROUP('0aaaaaaaaaaaaaaaaaaab4',$,$,$,(#50),$,#80);
ENDSEC;
END-ISO-10303-21;
`;

let api: IfcAPI;
beforeAll(async () => {
  api = new IfcAPI();
  api.SetWasmPath(dirname(createRequire(import.meta.url).resolve('web-ifc')) + sep, true);
  await api.Init(undefined, true);
  api.SetLogLevel(LogLevel.LOG_LEVEL_OFF);
});
const types = ifcTypesOf({ ...webIfc });
function read(text: string, maxObjects = 1000) {
  const objects: SolidObject[] = [];
  const parts: SolidPart[] = [];
  const sink = {
    object: (object: SolidObject) => objects.push(object) - 1,
    part: (part: SolidPart) => void parts.push(part),
  };
  return { objects, parts, result: readIfc(new TextEncoder().encode(text), sink, { api, types, maxObjects }) };
}

it('is told by its schema', () => {
  const bytes = new TextEncoder().encode(hall);
  expect(modelFormatOf(bytes, bytes.length)).toBe('ifc');
  const step = new TextEncoder().encode(hall.replace("'IFC4'", "'AUTOMOTIVE_DESIGN'"));
  expect(modelFormatOf(step, step.length)).toBe('step');
});

it('comes in with systems, or storeys and kinds, as layers, its tree and properties, to the micrometre', () => {
  const { objects, parts, result } = read(hall);
  expect(objects).toEqual([
    {
      name: 'South wall',
      id: '0aaaaaaaaaaaaaaaaaaaa8',
      node: 3,
      layer: 0,
      facts: ['kind: Wall', 'GlobalId: 0aaaaaaaaaaaaaaaaaaaa8', 'FireRating: REI 90', 'system: Sea water'],
    },
  ]);
  expect(result.layers).toEqual([{ name: 'Sea water' }]);
  const unassigned = read(hall.replace(/#81=.*\n/, ''));
  expect(unassigned.result.layers).toEqual([{ name: 'Ground floor · Wall' }]);
  expect(result.tree.map(({ name }) => name)).toEqual(['Kelpie Sound', 'Site', 'Pump hall', 'Ground floor']);
  const { positions, triangles } = parts[0]!;
  expect(triangles.length).toBe(36);
  const reach = [0, 1, 2].flatMap((axis) => {
    const values = positions.filter((_, i) => i % 3 === axis);
    return [Math.min(...values), Math.max(...values)];
  });
  [E, E + 4000, N, N + 300, 0, 3000].forEach((value, i) => expect(Math.abs(reach[i]! - value)).toBeLessThan(1e-3));
});

it('tells types, quantities, materials in layers, and classes', () => {
  const more = `#90=IFCWALLTYPE('0aaaaaaaaaaaaaaaaaaac1',$,'Wall 300',$,$,(#91),$,$,$,.STANDARD.);
#91=IFCPROPERTYSET('0aaaaaaaaaaaaaaaaaaac2',$,'Pset_Type',$,(#92));
#92=IFCPROPERTYSINGLEVALUE('AcousticRating',$,IFCLABEL('52 dB'),$);
#93=IFCRELDEFINESBYTYPE('0aaaaaaaaaaaaaaaaaaac3',$,$,$,(#50),#90);
#94=IFCELEMENTQUANTITY('0aaaaaaaaaaaaaaaaaaac4',$,'Qto_WallBaseQuantities',$,$,(#95));
#95=IFCQUANTITYVOLUME('NetVolume',$,$,3.6,$);
#96=IFCRELDEFINESBYPROPERTIES('0aaaaaaaaaaaaaaaaaaac5',$,$,$,(#50),#94);
#97=IFCMATERIAL('Concrete C35/45',$,$);
#98=IFCMATERIALLAYER(#97,300.,$,$,$,$,$);
#99=IFCMATERIALLAYERSET((#98),'Set',$);
#100=IFCMATERIALLAYERSETUSAGE(#99,.AXIS2.,.POSITIVE.,0.,$);
#101=IFCRELASSOCIATESMATERIAL('0aaaaaaaaaaaaaaaaaaac6',$,$,$,(#50),#100);
#102=IFCCLASSIFICATION($,$,$,'Works code',$,$,$);
#103=IFCCLASSIFICATIONREFERENCE($,'21.1','Outer walls',#102,$,$);
#104=IFCRELASSOCIATESCLASSIFICATION('0aaaaaaaaaaaaaaaaaaac7',$,$,$,(#50),#103);
ENDSEC;
END-ISO`;
  const { objects } = read(hall.replace('ENDSEC;\nEND-ISO', more));
  for (const fact of [
    'type: Wall 300',
    'AcousticRating: 52 dB',
    'NetVolume: 3.6',
    'material: Concrete C35/45',
    'Works code: 21.1 Outer walls',
  ])
    expect(objects[0]!.facts).toContain(fact);
});

it.each([
  ['millimetres', '.MILLI.', 1, 0.001],
  ['metres', '$', 1000, 1],
])('is placed on its map where it tells how, from %s', (_, prefix, unit, scale) => {
  // a quarter turn to the left, then to the grid in metres
  const more = `#90=IFCPROJECTEDCRS('EPSG:32610',$,$,$,$,$,#91);
#91=IFCSIUNIT(*,.LENGTHUNIT.,$,.METRE.);
#92=IFCMAPCONVERSION(#10,#90,500.5,6000.25,12.,0.,1.,${scale});
ENDSEC;
END-ISO`;
  const near = hall
    .replace(`((${E}.,${N}.,0.))`, '((0.,0.,0.))')
    .replace('.LENGTHUNIT.,.MILLI.', `.LENGTHUNIT.,${prefix}`)
    .replace('ENDSEC;\nEND-ISO', more);
  const { parts, result } = read(near);
  const reach = [0, 1, 2].flatMap((axis) => {
    const values = parts[0]!.positions.filter((_, i) => i % 3 === axis);
    return [Math.min(...values), Math.max(...values)];
  });
  const expected = [500_500 - 300 * unit, 500_500, 6_000_250, 6_000_250 + 4000 * unit, 12_000, 12_000 + 3000 * unit];
  // single precision of the package: seven digits of three kilometres at most
  expected.forEach((value, i) => expect(Math.abs(reach[i]! - value)).toBeLessThan(1e-3 * unit));
  expect(result.frame).toContain('placed on its map, EPSG:32610');
});

it('says where true north lies', () => {
  const turned = hall
    .replace("'Model',3,1.E-05,#11,$)", "'Model',3,1.E-05,#11,#90)")
    .replace('ENDSEC;\nEND-ISO', '#90=IFCDIRECTION((0.5,0.8660254037844386));\nENDSEC;\nEND-ISO');
  expect(read(turned).result.frame).toContain('true north lies 30.000° clockwise of its Y axis');
});

it('a damaged one is refused, or read as far as it goes; limits are named', () => {
  expect(() => read(hall, 0)).toThrow(/more than 0 objects/);
  expect(() => read(hall.replace("'IFC4'", "'IFC99'"))).toThrow(ReadError);
  // what is referred to is missing
  expect(read(hall.replace(/#7[01]=.*\n/g, '')).objects).toHaveLength(1);
  for (let length = 400; length < hall.length; length += 480) {
    try {
      read(hall.slice(0, length));
    } catch (error) {
      expect(error).toBeInstanceOf(ReadError);
    }
  }
});

it('a mapped shape is one shape at all its places, turned as it stands there, on the map as well', () => {
  const repeats = `#90=IFCREPRESENTATIONMAP(#11,#53);
#91=IFCMAPPEDITEM(#90,#92);
#92=IFCCARTESIANTRANSFORMATIONOPERATOR3D($,$,#12,1.,$);
#93=IFCSHAPEREPRESENTATION(#10,'Body','MappedRepresentation',(#91));
#94=IFCPRODUCTDEFINITIONSHAPE($,$,(#93));
#95=IFCCOLUMN('0aaaaaaaaaaaaaaaaaaad1',$,'Column A',$,$,#37,#94,$,$);
#96=IFCAXIS2PLACEMENT3D(#97,$,#98);
#97=IFCCARTESIANPOINT((9000.,500.,0.));
#98=IFCDIRECTION((0.6,0.8,0.));
#99=IFCLOCALPLACEMENT(#37,#96);
#100=IFCCOLUMN('0aaaaaaaaaaaaaaaaaaad2',$,'Column B',$,$,#99,#94,$,$);
#101=IFCPROJECTEDCRS('EPSG:25829',$,$,$,$,$,$);
#102=IFCMAPCONVERSION(#10,#101,1000.,2000.,3.,0.8,0.6,1.);
ENDSEC;
END-ISO`;
  for (const text of [repeats, repeats.replace(/#102=.*\n/, '')]) {
    const { parts, objects } = read(hall.replace('ENDSEC;\nEND-ISO', text));
    const [a, b] = ['Column A', 'Column B'].map((name) => parts[objects.findIndex((object) => object.name === name)]!);
    expect(a!.shape!.key).toBe(b!.shape!.key);
    const [together, alone] = [new SolidItems(), new SolidItems()];
    for (const { shape, ...part } of [a!, b!]) {
      together.add({ ...part, shape: shape! });
      alone.add(part);
    }
    const [one, other] = [together.piece(1), alone.piece(1)];
    one.positions.forEach((value, i) => expect(value).toBe(other.positions[i]));
    one.normals.forEach((value, i) => expect(value).toBeCloseTo(other.normals[i]!, 5));
    one.edgeNormals.forEach((value, i) => expect(value).toBeCloseTo(other.edgeNormals[i]!, 5));
  }
});
