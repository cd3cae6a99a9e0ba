import { makeImage, readImage } from '@jolly/core/image/imageHeader';
import type { CardFile } from '../board/card';
import type { Fault, Surroundings } from './fault';
import { staleStore } from './staleStore';

/** Replaces the image on the card by the same code under another header. */
function underHeader(at: Surroundings, change: Partial<{ target: string; loadAddress: number }>): void {
  at.card = { ...at.card, files: at.card.files.map((file) => otherHeader(file, change)) };
}

function otherHeader(file: CardFile, change: Partial<{ target: string; loadAddress: number }>): CardFile {
  const read = readImage(file.bytes);
  return 'problem' in read ? file : { ...file, bytes: makeImage({ ...read.header, ...change }, read.code) };
}

const OTHER_BAUD = 57600;

/** Faults of flashing and of the line to the host. */
export const FLASH_FAULTS: readonly Fault[] = [
  {
    name: 'card-not-fat32',
    what: 'the card is formatted as exFAT',
    symptom: 'the board starts as before, and the file keeps its name',
    found: "the card's properties on the computer",
    around: (at) => void (at.card = { ...at.card, format: 'exFAT' }),
  },
  {
    name: 'file-name-reused',
    what: 'the file has the name of one that was taken before',
    symptom: 'the board starts as before, and the file keeps its name',
    found: 'the list of names taken; another name helps',
    around: (at) => {
      const names = at.card.files.map(({ name }) => name);
      at.state = { ...at.state, namesTaken: [...at.state.namesTaken, ...names] };
    },
  },
  {
    name: 'load-address-wrong',
    what: 'the image is linked for another address',
    symptom: 'the bootloader does not take it',
    found: "the image's header beside the board's route",
    around: (at) => underHeader(at, { loadAddress: 0x100 }),
  },
  {
    name: 'image-for-another-target',
    what: 'the image is made for another board',
    symptom: 'the bootloader does not take it',
    found: "the image's header beside the board's route",
    around: (at) => underHeader(at, { target: 'another-board-1' }),
  },
  {
    name: 'image-already-there',
    what: 'the board holds this very image under this very name',
    symptom: 'nothing happens, and all is well',
    found: 'the build the board reports',
    around: (at) => {
      const [file] = at.card.files;
      if (file)
        at.state = { ...at.state, image: file.bytes, namesTaken: [...at.state.namesTaken, file.name] };
    },
  },
  {
    name: 'settings-stale',
    what: 'the store holds settings of an image before',
    symptom: 'the new values are in the image and not in use',
    found: 'the settings report beside the machine file; M502 and M500 help',
    around: (at, facts) => void (at.state = { ...at.state, store: staleStore(facts) }),
  },
  {
    name: 'tool-reports-an-error',
    what: 'the flashing tool reports an error although the image was taken',
    symptom: 'an error, and a board that runs the new build',
    found: 'the build the board reports',
    around: (at) => void (at.toolFails = true),
  },
  {
    name: 'bootloader-missing',
    what: 'the board has no bootloader',
    symptom: 'no card is taken, and nobody answers over USB serial',
    found: 'a call over every route that needs one; wires answer',
    around: (at) => {
      const { image: _, ...rest } = at.state;
      at.state = { ...rest, image: null, bootloader: new Uint8Array(0) };
    },
  },
  {
    name: 'programmer-wires-exchanged',
    what: 'two wires of the programmer or debug probe are exchanged',
    symptom: 'the tool gets no answer from the chip',
    found: 'each wire followed from pad to pad',
    around: (at) => void (at.wiresExchanged = true),
  },
  {
    name: 'baud-wrong',
    what: 'the host talks at another speed than the image',
    symptom: 'rubbish instead of words',
    found: 'the link baud of the image beside that of the host',
    around: (at) => void (at.hostBaud = OTHER_BAUD),
  },
  {
    name: 'port-held',
    what: 'another program has the port',
    symptom: 'the port cannot be opened',
    found: 'closing the other program',
    around: (at) => void (at.portHeld = true),
  },
];
