export { seedStory, type SeedOptions } from './seed.js';
export { DEMO_LOGIN, DEMO_STUDIO, STORY } from './story.data.js';
