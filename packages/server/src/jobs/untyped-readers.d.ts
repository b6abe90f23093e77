/** Packages that come without types. */
declare module 'draco3dgltf' {
  const draco: { createDecoderModule(): Promise<unknown> };
  export default draco;
}
declare module 'occt-import-js' {
  type Read = (
    bytes: Uint8Array,
    options: { readonly linearUnit: 'millimeter'; readonly angularDeflection: number },
  ) => import('@gull-pane/importers/step/read-step').StepContent;
  const start: () => Promise<{ ReadStepFile: Read; ReadIgesFile: Read; ReadBrepFile: Read }>;
  export default start;
}
