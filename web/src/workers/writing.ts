/** What the keyer writes of a scene as text; it comes with the first of it that is asked for. */
export { exposureSheetCsv, textOfHandOff } from '@zest-jaw/core';
