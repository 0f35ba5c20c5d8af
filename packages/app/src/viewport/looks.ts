/** The light and the colours of the viewport. */
export interface Look {
  ground: string;
  floor: string;
  line: string;
  shadow: number;
  key: [string, number];
  sky: [string, number];
  hemisphere: number;
  exposure: number;
  stitch: string;
  /** Handles along x, y and z and the one that is held, and the surfaces that cloth meets. */
  handles: [string, string, string, string];
  contact: string;
  figure: string;
}

export const DAY: Look = {
  ground: '#CDC9C1',
  floor: '#CFCBC3',
  line: '#8A8474',
  shadow: 0.3,
  key: ['#FFF6EA', 2.3],
  sky: ['#E3E9F0', 0.6],
  hemisphere: 1.45,
  exposure: 1.02,
  stitch: '#2F4A7D',
  handles: ['#B4442F', '#2F7F7A', '#2F4A7D', '#A67A0C'],
  contact: '#2F7F7A',
  figure: '#4A5162',
};

export const EVENING: Look = {
  ground: '#2B2D32',
  floor: '#34353A',
  line: '#5A5D66',
  shadow: 0.55,
  key: ['#FFE6C4', 1.9],
  sky: ['#AEBBD6', 0.5],
  hemisphere: 0.75,
  exposure: 1,
  stitch: '#8FA9DA',
  handles: ['#E08A73', '#6CBDB6', '#8FA9DA', '#E0BC5A'],
  contact: '#6CBDB6',
  figure: '#B9B4A9',
};

export const lookOf = (evening: boolean): Look => (evening ? EVENING : DAY);
