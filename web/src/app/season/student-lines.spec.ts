import { readStudentLines } from './student-lines';

describe('a pasted list of students', () => {
  it('takes a name and an instrument a line, however they are set apart', () => {
    const text =
      '1. Ilse Vantongeren\tclarinet\n• Bram Oyelaran, alto saxophone\nPiet Okonjo-Lund – trombone\n\nNoor Haldane;violin';
    expect(readStudentLines(text, '').students).toEqual([
      { name: 'Ilse Vantongeren', instrument: 'clarinet' },
      { name: 'Bram Oyelaran', instrument: 'alto saxophone' },
      { name: 'Piet Okonjo-Lund', instrument: 'trombone' },
      { name: 'Noor Haldane', instrument: 'violin' },
    ]);
  });

  it('gives who has none the instrument for all, and says whose is missing', () => {
    expect(readStudentLines('Caspian Roe\nMirela Stavanger, flute', 'horn').students[0]?.instrument).toBe(
      'horn',
    );
    expect(readStudentLines('Caspian Roe\nMirela Stavanger, flute', ' ').withoutInstrument).toEqual([
      'Caspian Roe',
    ]);
  });

  it('takes a name that stands twice once', () => {
    expect(readStudentLines('Tobias Vane\ntobias vane', 'percussion').students.length).toBe(1);
  });
});
