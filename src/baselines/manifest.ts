/** What the JSON beside a baseline's picture says. The format is described in docs/formats/baselines.md. */
import { array, mixed, number, object, string } from 'yup';
import type { Allowance } from '../core/picture/allowance.ts';
import type { CaptureKey } from '../core/baseline/baseline.ts';

type About = CaptureKey & {
  width: number;
  height: number;
  fingerprint: string;
  /** The group of machines that it is for; absent for the project's usual one. */
  family?: string;
  approved?: { by: string; at: string; why: string | null; run: number | null };
};

/** Format 1: the markup stands in the description, and the moment is not kept. */
type Former = About & { format: 1; sha256: string; markup: string[] };

/** Format 2: picture, moment, sheets and small assets, each by the SHA-256 of its content. */
export type Manifest = About & {
  format: 2;
  picture: string;
  moment: string;
  sheets: string[];
  /** What canvases show, as `data:` URLs; absent in older ones. */
  drawings?: string[];
  /** Address → hash. */
  assets: Record<string, string>;
  /** What of the picture is compared otherwise; absent where nothing is. */
  allowances?: Allowance[];
};

/** Everything beyond the name that is needed to keep a capture as a baseline. */
export type ManifestParts = Pick<
  Manifest,
  'picture' | 'moment' | 'sheets' | 'drawings' | 'assets' | 'fingerprint' | 'width' | 'height' | 'allowances'
>;

const sha = string().matches(/^[0-9a-f]{64}$/, '${path} is not a SHA-256 in hexadecimal');
const common = {
  component: string().required(),
  look: string().required(),
  environment: string().required(),
  capture: string().required(),
  fingerprint: string().required(),
  family: string(),
};
const former = object({
  ...common,
  format: mixed().oneOf([1]),
  sha256: sha,
  markup: array().of(string().defined()).required(),
});
const present = object({
  ...common,
  format: mixed().oneOf([2]).required(),
  picture: sha.required(),
  moment: sha.required(),
  sheets: array().of(sha.required()).required(),
  drawings: array().of(sha.required()),
  assets: object().required(),
  width: number().required(),
  height: number().required(),
  allowances: array().of(
    object({
      kind: string().oneOf(['left-out', 'anti-aliasing', 'difference']).required(),
      why: string().required(),
      boxes: array().of(array().of(number().required()).length(4).required()).nullable().defined(),
      upTo: number().min(0).max(1).nullable().defined(),
    }),
  ),
});

/** Reads a description of either format. @throws Error with what is wrong with it */
export function parseManifest(text: string): Manifest | Former {
  const value: unknown = JSON.parse(text);
  if (typeof value !== 'object' || value === null || Array.isArray(value)) throw new Error('it is not an object');
  const schema = (value as { format?: unknown }).format === 2 ? present : former;
  return schema.validateSync(value, { strict: true }) as Manifest | Former;
}
