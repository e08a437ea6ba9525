// A plate with a round lug: two shapes united, 3 mm added all around, their sizes told.
import { circlePath, combine, factsOf, offsetPieces, polygonPath, unwrap } from 'even-thread-core';

const plate = polygonPath([0, 0, 60, 0, 60, 40, 0, 40]);
const lug = circlePath(60, 20, 12);
const areas = [plate, lug].map((path) => [{ paths: [path], rule: 'nonzero' }]);

const { pieces } = unwrap(combine(areas, 'union', { verify: true }));
const [whole] = pieces;
const { length, area } = factsOf(whole.paths);
console.log(`united: ${length.toFixed(3)} mm around, ${area.toFixed(3)} mm² of material`);

const grown = unwrap(offsetPieces(whole.paths, { distance: 3, join: 'round' }));
console.log(`3 mm more all around: ${factsOf(grown.paths).area.toFixed(3)} mm²`);
