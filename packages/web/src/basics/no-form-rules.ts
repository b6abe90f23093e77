/**
 * Stands for the package by which the component library checks rules of forms: no form here has such rules, and it would be part
 * of what is loaded before any drawing is shown.
 */
export default function NoFormRules(): never {
  throw new Error('Rules of forms aren’t part of this build: check the field where it is used.');
}
