/** The types of ISO 16739 that tell how things belong together, by the numbers of the package that reads them. */
export interface IfcTypes {
  readonly contained: number;
  readonly aggregates: number;
  readonly properties: number;
  readonly typed: number;
  readonly materials: number;
  readonly classes: number;
  readonly groups: number;
  readonly mapConversions: number;
  readonly contexts: number;
  readonly units: number;
}

/** Their names in the package. */
const names = {
  contained: 'IFCRELCONTAINEDINSPATIALSTRUCTURE',
  aggregates: 'IFCRELAGGREGATES',
  properties: 'IFCRELDEFINESBYPROPERTIES',
  typed: 'IFCRELDEFINESBYTYPE',
  materials: 'IFCRELASSOCIATESMATERIAL',
  classes: 'IFCRELASSOCIATESCLASSIFICATION',
  groups: 'IFCRELASSIGNSTOGROUP',
  mapConversions: 'IFCMAPCONVERSION',
  contexts: 'IFCGEOMETRICREPRESENTATIONCONTEXT',
  units: 'IFCUNITASSIGNMENT',
} as const satisfies Record<keyof IfcTypes, string>;

/** @param numbers those of the package, by name */
export const ifcTypesOf = (numbers: Readonly<Record<string, unknown>>): IfcTypes =>
  Object.fromEntries(Object.entries(names).map(([type, name]) => [type, Number(numbers[name])])) as unknown as IfcTypes;
