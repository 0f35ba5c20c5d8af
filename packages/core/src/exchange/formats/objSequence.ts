import { strToU8 } from 'fflate';
import { writeObj } from '../objWrite';
import { sequenceFormat } from './format';

export const objSequence = sequenceFormat(
  { id: 'obj', label: 'OBJ sequence', note: 'text, a file a frame', type: 'model/obj' },
  ({ name, mesh }, positions) => strToU8(writeObj([{ name, mesh: { ...mesh, positions } }])),
);
