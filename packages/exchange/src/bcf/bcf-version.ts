/** Of the BIM Collaboration Format, buildingSMART International. */
export const bcfVersions = ['2.1', '3.0'] as const;
export type BcfVersion = (typeof bcfVersions)[number];
