/** Every reader and writer of files, as one part that is fetched when a file is asked for. */
export { datedCalendar, onOffCalendar } from './calendar';
export { parseDayCsv } from './dayCsv';
export { parseIes } from './ies';
export { entriesCsv, readEntriesCsv } from './entriesCsv';
export { logCsv } from './logCsv';
export { readingsCsv, readReadingsCsv } from './readingsCsv';
export { problemWords } from './table';
export { sheetCsv, sheetPlainText } from './sheetText';
export { parseSpdx, spdx } from './spdx';
export { parseSpectrumCsv, spectrumCsv } from './spectrumCsv';
export { tableCsv } from './tableCsv';
