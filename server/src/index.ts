export { createApp, type AppParts } from './app.js';
export { readConfig, type Config } from './config.js';
export { connect } from './db/connect.js';
export { rebuildReadiness } from './jobs/rebuild.js';
