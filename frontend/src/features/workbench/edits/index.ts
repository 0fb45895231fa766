/* Every edit of the workbench. */
export * from './arrange';
export * from './cannotBe';
export * from './cells';
export * from './edit';
export * from './groups';
export * from './intent';
export * from './layers';
export * from './loop';
export * from './parameters';
export * from './patched';
export * from './placements';
export * from './removal';
export * from './rows';
export * from './states';
export * from './traits';
export * from './transitions';
export * from './values';
