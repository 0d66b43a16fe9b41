/** A record that is larger is not read in. Units: bytes (our own) */
export const RECORD_BYTES = 128 * 1024 * 1024;
/** What is said of one, before it is sent and after. */
export const RECORD_TOO_LARGE = `This record is larger than the ${RECORD_BYTES / 1_048_576} MB that can be read in, most of it sounds of takes. Export the student again with “Export without sounds” and read that in; the larger file keeps the sounds.`;
