// Go’s own glue between a page and a module, put here when that is built: it sets a global.
export {};
