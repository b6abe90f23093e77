/**
 * The one catalogue of what can go wrong, as RFC 9457 problem details. The code is the last part of the problem's type;
 * the hint says what to do.
 */
export const problemCatalogue = {
  'bad-request': {
    status: 400,
    title: 'The request can’t be understood',
    hint: 'Check the fields named in the detail.',
  },
  'not-found': { status: 404, title: 'Not found', hint: 'It may have been deleted. Go back to the list of drawings.' },
  'drawing-not-found': {
    status: 404,
    title: 'There is no such drawing',
    hint: 'It may have been deleted. Go back to the list of drawings.',
  },
  'object-not-found': {
    status: 404,
    title: 'There is no such object in this drawing',
    hint: 'Ids begin at 0 and end before the number of objects.',
  },
  'card-not-found': {
    status: 404,
    title: 'There is no such view card',
    hint: 'It may have been deleted in another window.',
  },
  'backup-refused': {
    status: 422,
    title: 'The backup can’t be restored',
    hint: 'Nothing was changed.',
  },
  'restore-running': {
    status: 409,
    title: 'A backup is being restored already',
    hint: 'Wait until it is in place.',
  },
  'package-damaged': {
    status: 422,
    title: 'The package is damaged',
    hint: 'Nothing was taken from it. Write it anew, or copy it once more.',
  },
  'package-too-new': {
    status: 422,
    title: 'The package was written by a newer Gull Pane',
    hint: 'Bring this one up to date, then try again.',
  },
  'package-not-found': {
    status: 404,
    title: 'The package isn’t here any more',
    hint: 'Send it once more.',
  },
  'source-not-kept': {
    status: 422,
    title: 'The drawing’s file isn’t kept',
    hint: 'It came in before files were kept. Import it once more, then write the package.',
  },
  'nothing-to-export': {
    status: 422,
    title: 'Nothing of the drawing would be written',
    hint: 'Show some layers or objects, or choose the whole drawing.',
  },
  'sheet-set-not-found': {
    status: 404,
    title: 'There is no such set of sheets',
    hint: 'It may have been deleted in another window.',
  },
  'tour-not-found': {
    status: 404,
    title: 'There is no such tour',
    hint: 'It may have been deleted in another window.',
  },
  'arrangement-not-found': {
    status: 404,
    title: 'There is no such arrangement',
    hint: 'It may have been deleted in another window.',
  },
  'link-not-found': {
    status: 404,
    title: 'This server knows no such link',
    hint: 'It may have been made on another server, or not copied whole. Ask for the long link, which needs no server.',
  },
  'version-conflict': {
    status: 409,
    title: 'This was changed somewhere else in the meantime',
    hint: 'Look at what it is now, then make the change again.',
  },
  'job-not-found': { status: 404, title: 'There is no such job', hint: 'Import the file again.' },
  'drawing-not-ready': {
    status: 409,
    title: 'The drawing has no content yet',
    hint: 'Wait until the import has ended, or import the file again.',
  },
  'revision-not-found': {
    status: 404,
    title: 'There is no such revision',
    hint: 'Open the list of revisions again: it may have been removed meanwhile.',
  },
  'revision-in-use': {
    status: 409,
    title: 'This revision is what the drawing shows',
    hint: 'Import a newer file first, or remove the whole drawing.',
  },
  'job-ended': { status: 409, title: 'The job has already ended', hint: 'Nothing is left to cancel.' },
  'import-running': {
    status: 409,
    title: 'This drawing is being imported',
    hint: 'Wait for that import or cancel it first.',
  },
  'token-needed': {
    status: 401,
    title: 'This server asks for its access token',
    hint: 'Name the token that the server was started with.',
  },
  'precondition-failed': {
    status: 412,
    title: 'The resource was changed by another person in the meantime',
    hint: 'Look at the version on the server, then change that one.',
  },
  'not-allowed': {
    status: 403,
    title: 'You may not do this',
    hint: 'Ask a person with the role “manage”.',
  },
  'sign-in-failed': {
    status: 401,
    title: 'The sign-in failed',
    hint: 'Sign in again. If it fails again, ask the administrator of the sign-in service.',
  },
  'wrong-token': {
    status: 403,
    title: 'That is not the token',
    hint: 'Check the token that the server was started with.',
  },
  'foreign-host': {
    status: 403,
    title: 'This server is for its own machine',
    hint: 'Open it at 127.0.0.1 or localhost.',
  },
  'foreign-origin': {
    status: 403,
    title: 'Another site may not use this server',
    hint: 'Open Gull Pane itself and do it there.',
  },
  'too-many-requests': { status: 429, title: 'Too many requests', hint: 'Wait a minute, then try again.' },
  'file-missing': {
    status: 400,
    title: 'No file was sent',
    hint: 'Send one file in the field “file” of a multipart form.',
  },
  'file-too-large': {
    status: 413,
    title: 'The file is too large',
    hint: 'Split the file, or raise GULL_PANE_MAX_UPLOAD_MB on the server.',
  },
  'empty-file': {
    status: 422,
    title: 'The file is empty',
    hint: 'Check the export that made it, then import it again.',
  },
  'not-a-model': {
    status: 422,
    title: 'This model can’t be read',
    hint: 'Save it as glTF 2.0 in one .glb file, or as IFC, STEP, STL, OBJ or PLY (points also as XYZ or CSV), then import that.',
  },
  'not-svg': {
    status: 422,
    title: 'This file can’t be read as a drawing',
    hint: 'Choose a plan in SVG, GeoJSON or PDF format, a picture or a model. The name doesn’t matter, the content does.',
  },
  'not-geojson': {
    status: 422,
    title: 'The file is not GeoJSON',
    hint: 'Choose a file in SVG, GeoJSON or PDF format. The name doesn’t matter, the content does.',
  },
  'malformed-json': {
    status: 422,
    title: 'The GeoJSON is broken',
    hint: 'Export the file again, or mend the place named, then import it again.',
  },
  'malformed-xml': {
    status: 422,
    title: 'The SVG is broken',
    hint: 'Export the file again, or mend the place named, then import it again.',
  },
  'malformed-pdf': {
    status: 422,
    title: 'The PDF is broken',
    hint: 'Export the file again, then import it again.',
  },
  'locked-file': {
    status: 422,
    title: 'The file is locked by a password',
    hint: 'Save it without a password, then import it again.',
  },
  'bad-encoding': {
    status: 422,
    title: 'The file’s letters can’t be read',
    hint: 'Save it as UTF-8, then import it again.',
  },
  'damaged-file': { status: 422, title: 'The file is damaged', hint: 'Copy or export it again, then import it again.' },
  'nothing-to-draw': {
    status: 422,
    title: 'Nothing in the file can be drawn',
    hint: 'Check that the export holds visible lines, fills or texts.',
  },
  'limit-exceeded': {
    status: 422,
    title: 'The file goes beyond a limit',
    hint: 'Export a part of the drawing, or simplify it.',
  },
  'import-failed': {
    status: 500,
    title: 'The import failed',
    hint: 'Try again. If it fails again, the server’s log says more.',
  },
  'not-ready': {
    status: 503,
    title: 'The server isn’t ready',
    hint: 'Try again in a moment.',
  },
  internal: {
    status: 500,
    title: 'Something went wrong on the server',
    hint: 'Try again. If it fails again, the server’s log says more.',
  },
} as const satisfies Record<string, { status: number; title: string; hint: string }>;

export type ProblemCode = keyof typeof problemCatalogue;

/** RFC 9457, with a hint of our own and the place in the source where there is one. */
export interface ProblemDetails {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail?: string;
  readonly instance?: string;
  readonly code: ProblemCode;
  readonly hint: string;
  readonly line?: number;
  readonly column?: number;
  /** In a conflict: the version on the server. */
  readonly current?: unknown;
}

export interface ProblemFacts {
  readonly detail?: string;
  readonly instance?: string;
  readonly line?: number;
  readonly column?: number;
  readonly current?: unknown;
}

/** A problem of the catalogue as RFC 9457 puts it. @param facts what is known of this one */
export function problemDetails(code: ProblemCode, facts: ProblemFacts = {}): ProblemDetails {
  const { status, title, hint } = problemCatalogue[code];
  return { type: `urn:gull-pane:problem:${code}`, title, status, code, hint, ...facts };
}
