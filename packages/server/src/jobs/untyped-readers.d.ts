/** Packages that come without types. */
declare module 'draco3dgltf' {
  const draco: { createDecoderModule(): Promise<unknown> };
  export default draco;
}
declare module 'occt-import-js' {
  const start: () => Promise<{
    ReadStepFile(bytes: Uint8Array, options: null): import('@gull-pane/importers/step/read-step').StepContent;
  }>;
  export default start;
}
