/**
 * What BCF demands of every file, as buildingSMART's schemas of versions 2.1 and 3.0 have it: which elements may stand
 * in which, in what order and how often, which attributes they have, and what their texts may be.
 */
export interface ElementRule {
  /** Children in the order in which they have to stand. */
  readonly children?: readonly ChildRule[];
  /** Of these children exactly one has to be there. */
  readonly attributes?: Readonly<Record<string, 'required' | 'optional'>>;
  /** What the text has to be. */
  readonly text?: RegExp;
}
export interface ChildRule {
  readonly name: string;
  readonly least: 0 | 1;
  readonly most: number;
  readonly rule: ElementRule;
}

const one = (name: string, rule: ElementRule = {}): ChildRule => ({ name, least: 1, most: 1, rule });
const maybe = (name: string, rule: ElementRule = {}): ChildRule => ({ name, least: 0, most: 1, rule });
const some = (name: string, rule: ElementRule = {}): ChildRule => ({ name, least: 1, most: Infinity, rule });
const any = (name: string, rule: ElementRule = {}): ChildRule => ({ name, least: 0, most: Infinity, rule });

const GUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** xs:double, xs:dateTime, xs:integer, a string that isn't blank. */
const DOUBLE: ElementRule = { text: /^[+-]?(\d+(\.\d*)?|\.\d+)([eE][+-]?\d+)?$/ };
const DATE: ElementRule = { text: /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}(\.\d+)?(Z|[+-]\d{2}:\d{2})?$/ };
const INTEGER: ElementRule = { text: /^-?\d+$/ };
const WORDS: ElementRule = { text: /\S/ };

const vector: ElementRule = { children: [one('X', DOUBLE), one('Y', DOUBLE), one('Z', DOUBLE)] };
const component: ElementRule = {
  attributes: { IfcGuid: 'optional' },
  children: [maybe('OriginatingSystem', WORDS), maybe('AuthoringToolId', WORDS)],
};
const components: ElementRule = { children: [some('Component', component)] };

const orthogonal = (extra: readonly ChildRule[]): ElementRule => ({
  children: [
    one('CameraViewPoint', vector),
    one('CameraDirection', vector),
    one('CameraUpVector', vector),
    one('ViewToWorldScale', DOUBLE),
    ...extra,
  ],
});
const perspective = (field: ElementRule, extra: readonly ChildRule[]): ElementRule => ({
  children: [
    one('CameraViewPoint', vector),
    one('CameraDirection', vector),
    one('CameraUpVector', vector),
    one('FieldOfView', field),
    ...extra,
  ],
});
const planes: ElementRule = {
  children: [any('ClippingPlane', { children: [one('Location', vector), one('Direction', vector)] })],
};
const visibility: ElementRule = {
  attributes: { DefaultVisibility: 'optional' },
  children: [maybe('Exceptions', components)],
};
const info = (camera: (name: 'orthogonal' | 'perspective') => ElementRule): ElementRule => ({
  attributes: { Guid: 'required' },
  children: [
    maybe('Components', { children: [maybe('Selection', components), one('Visibility', visibility)] }),
    maybe('OrthogonalCamera', camera('orthogonal')),
    maybe('PerspectiveCamera', camera('perspective')),
    maybe('Lines'),
    maybe('ClippingPlanes', planes),
  ],
});

const viewpointRef: ElementRule = { attributes: { Guid: 'required' } };
const comment: ElementRule = {
  attributes: { Guid: 'required' },
  children: [one('Date', DATE), one('Author', WORDS), one('Comment', WORDS), maybe('Viewpoint', viewpointRef)],
};
const viewpoint: ElementRule = {
  attributes: { Guid: 'required' },
  children: [
    maybe('Viewpoint', { text: /^viewpoint\.bcfv$/ }),
    maybe('Snapshot', { text: /^snapshot\.(png|jpg)$/ }),
    maybe('Index', INTEGER),
  ],
};
const created = [one('CreationDate', DATE), one('CreationAuthor', WORDS)];

export interface BcfStructure {
  /** By the names of the files; `*` stands for the folder of a topic, named by its GUID. */
  readonly files: Readonly<
    Record<string, { readonly root: string; readonly rule: ElementRule; readonly isNeeded: boolean }>
  >;
}

export const bcfStructures: Readonly<Record<'2.1' | '3.0', BcfStructure>> = {
  '2.1': {
    files: {
      'bcf.version': {
        root: 'Version',
        isNeeded: true,
        rule: { attributes: { VersionId: 'required' }, children: [maybe('DetailedVersion', WORDS)] },
      },
      '*/markup.bcf': {
        root: 'Markup',
        isNeeded: true,
        rule: {
          children: [
            one('Topic', {
              attributes: { Guid: 'required', TopicType: 'optional', TopicStatus: 'optional' },
              children: [
                one('Title', WORDS),
                maybe('Priority'),
                maybe('Index', INTEGER),
                any('Labels', WORDS),
                ...created,
              ],
            }),
            any('Comment', comment),
            any('Viewpoints', viewpoint),
          ],
        },
      },
      '*/viewpoint.bcfv': {
        root: 'VisualizationInfo',
        isNeeded: false,
        // 45 … 60 degrees
        rule: info((camera) =>
          camera === 'orthogonal' ? orthogonal([]) : perspective({ text: /^(4[5-9]|5\d)(\.\d+)?$|^60(\.0+)?$/ }, []),
        ),
      },
    },
  },
  '3.0': {
    files: {
      'bcf.version': { root: 'Version', isNeeded: true, rule: { attributes: { VersionId: 'required' } } },
      'extensions.xml': {
        root: 'Extensions',
        isNeeded: true,
        rule: {
          children: [
            maybe('TopicTypes', { children: [any('TopicType', WORDS)] }),
            maybe('TopicStatuses', { children: [any('TopicStatus', WORDS)] }),
            maybe('Priorities'),
            maybe('TopicLabels', { children: [any('TopicLabel', WORDS)] }),
            maybe('Users', { children: [any('User', WORDS)] }),
          ],
        },
      },
      '*/markup.bcf': {
        root: 'Markup',
        isNeeded: true,
        rule: {
          children: [
            one('Topic', {
              attributes: { Guid: 'required', TopicType: 'required', TopicStatus: 'required' },
              children: [
                one('Title', WORDS),
                maybe('Priority'),
                maybe('Index', INTEGER),
                maybe('Labels', { children: [any('Label', WORDS)] }),
                ...created,
                maybe('Comments', { children: [any('Comment', comment)] }),
                maybe('Viewpoints', { children: [any('ViewPoint', viewpoint)] }),
              ],
            }),
          ],
        },
      },
      '*/viewpoint.bcfv': {
        root: 'VisualizationInfo',
        isNeeded: false,
        rule: info((camera) =>
          camera === 'orthogonal'
            ? orthogonal([one('AspectRatio', DOUBLE)])
            : perspective(DOUBLE, [one('AspectRatio', DOUBLE)]),
        ),
      },
    },
  },
};

export const isGuid = (text: string): boolean => GUID.test(text);
