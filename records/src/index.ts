export * from './quantity.js';
export * from './nouns/index.js';
export * from './files/bundle.js';
export * from './api.js';
export * from './toCore.js';
