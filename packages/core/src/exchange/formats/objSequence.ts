import { strToU8 } from 'fflate';
import { writeObj } from '../objWrite';
import { sequenceFormat } from './format';

export const objSequence = sequenceFormat(
  {
    ...{ id: 'obj', label: 'OBJ sequence', note: 'text, a file a frame', type: 'model/obj' },
    writeFrame: ({ cloths }, { positions }) =>
      strToU8(writeObj(cloths.map(({ name, mesh }, i) => ({ name, mesh: { ...mesh, positions: positions[i]! } })))),
  },
  ({ name, mesh }, positions) => strToU8(writeObj([{ name, mesh: { ...mesh, positions } }])),
);
