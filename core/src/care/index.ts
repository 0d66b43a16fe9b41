export { BREAKS, CARE } from './care.data.js';
export { allowedMinutes, dailyDose, EXCHANGE_DB, FULL_DAY_DBA } from './sound-dose.js';
