/** The host's side of what a page says: believed only with the token of its document, and about the look that runs. */
import { randomUUID } from 'node:crypto';
import { type Bundle, type BundledFile, fileOf, typeOf } from '../bundle/index.ts';
import type { Approved } from '../core/baseline/baseline.ts';
import { canonicalise } from '../core/moment/canonical.ts';
import { momentAt } from '../core/moment/patch.ts';
import { addressOf, decodePath } from '../core/address/address.ts';
import { chooserNote, missingFileNote } from '../core/problem/notes.ts';
import { messageOf } from '../core/problem/problem.ts';
import { gather } from '../core/timeline/trace.ts';
import type { OptionList, Did, Stop } from '../core/sitting/sitting.ts';
import { readLookReport, readMessage } from '../core/wire/shapes.ts';
import { type Ask, askFailure, type CaptureAsk, type FromPage } from '../core/wire/wire.ts';
import type { GivenFile, Load, PausedRequest, Reply } from '../core/wire/wire.ts';
import type { EngineWindow, LoadedFiles, WindowHandlers } from '../engine/engine.ts';
import { type Contract, unlike } from './contract.ts';
import { markedIn } from './allowed.ts';
import { unseenFocuses } from './focuses.ts';
import { type Ground, recall } from './recall.ts';
import { type Gathered, nothingGathered } from './gathered.ts';
import { gatherAssets, hashOf, holdAssets } from './assets.ts';
import { givenFiles, type HeldFile } from './given.ts';

/** How often a picture is taken at most until it comes out twice in a row. */
const mostShots = 5;

const filesOnly = (files: GivenFile[]): Load => ({ text: null, html: null, files });

/** Hears where the script of an attended look stops, and what is done to that by hand. */
export type Hearing = {
  stopped(stop: Stop): void;
  did(lines: readonly Did[]): void;
  asks(choice: OptionList): void;
};

export class Conversation {
  readonly #window: EngineWindow;
  readonly #origin: string;
  readonly #now: Date;
  #bundle: Bundle | null = null;
  #token = '';
  #look = 0;
  #approved: Readonly<Record<string, Approved>> | null = null;
  /** The part of the page that was looked at last. */
  #glanced: Buffer | null = null;
  /** What may be known of pages at the ends of looks; null where nothing is looked for. */
  #ground: Ground | null = null;
  /** Of pictures that may stand for captures with equal moments; null when every capture is photographed. */
  #fingerprint: string | null = null;
  /** Files of the bundle that were looked for before, by address. */
  #known = new Map<string, BundledFile>();
  #gathered = nothingGathered();
  #contract: Contract | null = null;
  #attendant: Hearing | null = null;
  /** What the look has asked for that may be answered. */
  readonly #handed = new Set<string>();
  /** Requests that wait to be answered. */
  readonly #paused = new Map<string, PausedRequest>();
  /** What the page has asked for and is still being done. */
  readonly #doing = new Set<Promise<void>>();
  /** Requests are handed to the page in the order in which it made them. */
  #asked: Promise<void> = Promise.resolve();

  constructor(window: EngineWindow, origin: string, now: Date) {
    this.#now = now;
    this.#window = window;
    this.#origin = origin;
  }

  /** A run begins: files may be others than they were. Answers have to keep to a contract, if there is one. */
  forget(contract: Contract | null = null): void {
    this.#contract = contract;
    this.#paused.clear();
    this.#known = new Map();
  }

  /** The document goes on with what a bundle holds. */
  goOn(bundle: Bundle): void {
    if (this.#bundle?.id !== bundle.id) this.#known = new Map();
    this.#bundle = bundle;
  }

  /** A document is about to be loaded: nothing that an earlier one says counts any more. Returns its token. */
  begin(bundle: Bundle): string {
    this.goOn(bundle);
    this.#token = randomUUID();
    this.#look = 0;
    return this.#token;
  }

  get token(): string {
    return this.#token;
  }

  /**
   * A look begins; what comes of it is gathered into the returned value. With a `fingerprint` the approved picture
   * stands for a capture whose moment is as approved with it. On a `ground` it is recalled what is known of an equal
   * page. `attendant` hears of an attended look.
   */
  listen(
    look: number,
    approved: Readonly<Record<string, Approved>> | null,
    fingerprint: string | null,
    ground: Ground | null,
    attendant: Hearing | null = null,
  ): Gathered {
    this.#look = look;
    this.#ground = ground;
    this.#attendant = attendant;
    this.#approved = approved;
    this.#fingerprint = fingerprint;
    this.#gathered = nothingGathered();
    this.#handed.clear();
    return this.#gathered;
  }

  /**
   * The look has ended: what comes late belongs to nobody. Resolves when nothing that it asked for is being done any
   * more.
   */
  async hush(): Promise<void> {
    this.#look = 0;
    await Promise.all(this.#doing);
  }

  /** Adds a note to the look that runs, once. */
  note(text: string): void {
    // What is tried on its page when it has ended is not its doing.
    if (this.#gathered.concluded) return;
    if (!this.#gathered.notes.includes(text)) this.#gathered.notes.push(text);
  }

  /** What the window tells of its page. */
  readonly hears: Omit<WindowHandlers, 'left' | 'lost'> = {
    message: (text) => this.#receive(text),
    request: (request) => this.#request(request),
    missing: (url) => this.#missing(url),
    dialog: (type, text) => this.note(`A dialog (${type}: “${text}”) opened and was dismissed.`),
    chooser: () => this.note(chooserNote),
  };

  /** The page has spoken through its binding. */
  #receive(raw: string): void {
    const message = readMessage(raw);
    if (!message || message.token !== this.#token) {
      this.note('Something on the page sent Sguardo messages of its own; they were ignored.');
      return;
    }
    if (message.kind === 'answer') this.#answer(message);
    else if (message.kind === 'watches') this.#gathered.watched++;
    else if (message.look !== this.#look) return;
    else if (message.kind === 'stopped') this.#attendant?.stopped(message.stop);
    else if (message.kind === 'did') this.#attendant?.did(message.lines);
    else if (message.kind === 'asks') this.#attendant?.asks(message.choice);
    else if (message.kind === 'events') for (const event of message.events) gather(this.#gathered.trace, event);
    else this.#take(message.id, message.ask);
  }

  #answer({ request, reply }: FromPage & { kind: 'answer' }): void {
    const paused = this.#paused.get(request);
    this.#paused.delete(request);
    if (paused && typeof reply === 'object') this.#weigh(paused, reply);
    if (reply === 'proceed') this.#window.proceed(request);
    else if (reply === 'refuse') this.#window.refuse(request);
    else void this.#fulfil(request, reply, paused?.isFile ? paused.url : null);
  }

  /** Compares an answer with what the API can give. */
  #weigh({ method, url }: PausedRequest, { status, headers, body }: Reply): void {
    if (!this.#contract || typeof body !== 'string' || this.#gathered.concluded) return;
    const type = Object.entries(headers).find(([name]) => name.toLowerCase() === 'content-type')?.[1] ?? '';
    // What nobody answers is told as that.
    if (type.includes('problem+json') && status === 404) return;
    const objection = this.#contract.objection({ method, url, status, type, body });
    this.#gathered.read.push(this.#contract.file);
    if (objection) this.#gathered.objections.push(objection);
  }

  /** `file` is the address of what no script has asked for, and moments show. */
  async #fulfil(request: string, { status, headers, body }: Reply, file: string | null): Promise<void> {
    try {
      const [content, byName] = await this.#bodyOf(body);
      const given = Object.entries(headers).find(([name]) => name.toLowerCase() === 'content-type');
      const type = given?.[1] ?? byName;
      if (file !== null && status < 400)
        this.#gathered.answered.set(file, { type: type ?? '', body: Buffer.from(content) });
      this.#window.fulfil(request, {
        status,
        headers: {
          ...(type !== null && !given && { 'content-type': type }),
          // The next look may answer otherwise.
          ...(file !== null && { 'cache-control': 'no-store' }),
          ...headers,
        },
        body: content,
      });
    } catch (error) {
      const missing = messageOf(error).slice(askFailure.noFile.length);
      this.note(`There is no file ${missing} in the project, which an answer names; the request was refused.`);
      this.#window.refuse(request);
    }
  }

  async #bodyOf(body: Reply['body']): Promise<[Uint8Array, string | null]> {
    if (typeof body === 'string') return [Buffer.from(body), null];
    if ('base64' in body) return [Buffer.from(body.base64, 'base64'), null];
    const [file] = await this.#filesOf([{ path: body.file }]);
    return [file!.bytes, typeOf(file!.name)];
  }

  #take(id: number, ask: Ask): void {
    const doing = this.#do(ask)
      .then(
        () => this.#reply(id, null),
        (error: unknown) => this.#reply(id, messageOf(error)),
      )
      .finally(() => this.#doing.delete(doing));
    this.#doing.add(doing);
  }

  #reply(id: number, error: string | null): void {
    const files = JSON.stringify(this.#window.files);
    const call = `__sguardo.reply(${JSON.stringify(this.#token)}, ${id}, ${JSON.stringify(error)}, ${files})`;
    this.#window.evaluate(call).catch(() => {});
  }

  async #do(ask: Ask): Promise<void> {
    if (ask.do === 'capture') return this.#capture(ask);
    if (ask.do !== 'nothing') return this.#hands(ask);
  }

  async #hands(ask: Exclude<Ask, CaptureAsk | { do: 'nothing' }>): Promise<void> {
    const window = this.#window;
    switch (ask.do) {
      case 'input':
        return window.input(ask.events);
      case 'glance': {
        const png = await window.screenshot(ask.clip, false);
        const before = this.#glanced;
        this.#glanced = png;
        if (ask.isAgain && before?.equals(png)) throw new Error(askFailure.asBefore);
        return;
      }
      case 'focuses':
        throw new Error(askFailure.alike + (await unseenFocuses(window, this.#token, ask.clips)).join(' '));
      case 'recall':
        return this.#recall(ask.beside);
      case 'conclude':
        this.#gathered.concluded = readLookReport(ask.report);
        return;
      case 'conform': {
        const lines = unlike(ask.schema as object, ask.value);
        if (lines.length > 0) throw new Error(lines.join('\n'));
        return;
      }
      case 'surround':
        return window.surround(ask.with);
      case 'carry': {
        const load = ask.load && (await this.#loaded(ask.load));
        if (!(await window.carry(ask.point, load, ask))) throw new Error(askFailure.noDrag);
        return;
      }
      case 'choose': {
        const came = await window.choose(ask.events, (await this.#loaded(filesOnly(ask.files))).files);
        if (came !== 'chosen') throw new Error(came === 'one' ? askFailure.oneFile : askFailure.noChooser);
        return;
      }
      case 'paste': {
        const files = await this.#filesOf(ask.load.files);
        const pngs = files.map(({ bytes }) => Buffer.from(bytes).toString('base64'));
        return window.paste({ ...ask.load, files: [] }, pngs);
      }
    }
  }

  /** The files that a page speaks of; those of the project are remembered as read. */
  async #filesOf(files: readonly GivenFile[]): Promise<HeldFile[]> {
    const found = await givenFiles(this.#bundle!.root, files);
    this.#gathered.read.push(...files.flatMap((file) => ('path' in file ? file.path : [])));
    return found;
  }

  async #loaded({ text, html, files }: Load): Promise<LoadedFiles> {
    return { text, html, files: await this.#window.hold(await this.#filesOf(files), this.#now) };
  }

  async #capture(ask: CaptureAsk): Promise<void> {
    const { shots, trace } = this.#gathered;
    const { name, clip, step, moment, unseen, allowed, opaque } = ask;
    // A page speaks of steps and moments that it has told of; pictures of others show nothing that is known.
    if (trace.steps[step]?.capture !== name && !name.startsWith('step ')) throw new Error('there is no such step');
    const png = (await this.#isAsApproved(ask)) ? null : await this.#shoot(ask);
    const at = shots.findIndex((shot) => shot.name === name && shot.step === step);
    const shot = { name, png, clip, step, moment, unseen, allowed, opaque };
    if (at < 0) shots.push(shot);
    else shots[at] = shot;
  }

  /** True for a capture whose moment shows what was approved, so that its picture would, too. */
  async #isAsApproved({ name, moment, unseen, allowed, opaque }: CaptureAsk): Promise<boolean> {
    const { picture, fingerprint, shows } = this.#approved?.[name] ?? {};
    if (opaque || !picture || !shows || this.#fingerprint === null || fingerprint !== this.#fingerprint) return false;
    const { trace } = this.#gathered;
    const { answered } = this.#gathered;
    if (!(await holdAssets(this.#bundle!, this.#origin, shows.assets, this.#known, answered))) return false;
    const hashes = await this.#assetsUntil(moment);
    if (Object.entries(hashes).some(([address, hash]) => shows.assets[address] !== hash)) return false;
    const shown = momentAt(trace.base, trace.patches, moment);
    const contents = { hash: hashOf, assets: hashes, ...markedIn({ unseen, allowed }) };
    return hashOf(JSON.stringify(canonicalise(shown, contents))) === shows.moment;
  }

  /** Hashes of what the page has shown until a moment, by address. */
  async #assetsUntil(moment: number): Promise<Record<string, string>> {
    const { trace, answered } = this.#gathered;
    const moments = [trace.base, ...trace.patches.slice(0, moment)];
    const given = { wanted: trace.assets, answered };
    return (await gatherAssets(this.#bundle!, this.#origin, given, moments, this.#known)).hashes;
  }

  /** Looks for what was found before on a page that shows the same. @throws Error that says what is known */
  async #recall(beside: string): Promise<void> {
    const { trace, shots } = this.#gathered;
    const end = shots.findLast(({ name }) => name === 'end');
    // What its moment does not tell of may be otherwise.
    if (!this.#ground || !end || end.opaque) return;
    const shown = momentAt(trace.base, trace.patches, end.moment);
    const recalled = recall(this.#ground, shown, await this.#assetsUntil(end.moment), beside);
    this.#gathered.recalled = recalled;
    const { page, focus, keyboard } = recalled;
    if (!page.findings) return;
    if (keyboard.findings) throw new Error(askFailure.knownAll);
    throw new Error(focus.findings ? askFailure.knownFocus : askFailure.knownMarkup);
  }

  /**
   * A picture as approved is what it should be. Any other is looked at again: now and then a browser draws a layer a
   * frame late.
   */
  async #shoot({ name, clip, beyond }: CaptureAsk): Promise<Uint8Array> {
    let png = await this.#window.screenshot(clip, beyond);
    if (!this.#approved || this.#approved[name]?.picture === hashOf(png)) return png;
    for (let shots = 1; shots < mostShots; shots++) {
      const again = await this.#window.screenshot(clip, beyond);
      if (again.equals(png)) return png;
      png = again;
    }
    this.note(
      `The picture “${name}” differed each of the ${mostShots} times it was taken, so it will differ from run to run.`,
    );
    return png;
  }

  /** A file is not there. One that an answer says so of is not missed. */
  #missing(address: string): void {
    const url = addressOf(address);
    if (this.#look === 0 || url?.origin !== this.#origin || this.#handed.has(address)) return;
    this.note(missingFileNote(url.pathname));
  }

  /** The browser has paused a request: the page decides, unless there is none. */
  #request(request: PausedRequest): void {
    // In their order: the page counts on it that what it asked for last comes last.
    this.#asked = this.#asked.then(() => this.#handOver(request));
  }

  async #handOver(request: PausedRequest): Promise<void> {
    this.#paused.set(request.id, request);
    this.#handed.add(request.url);
    const url = addressOf(request.url);
    const path = url && url.origin === this.#origin ? decodePath(url.pathname) : null;
    const isFile = path !== null && request.method === 'GET' && this.#bundle !== null;
    const asset = isFile && (await fileOf(this.#bundle!, path)) !== null;
    const asked = JSON.stringify({ ...request, asset });
    const call = `window.__sguardo ? (__sguardo.request(${JSON.stringify(this.#token)}, ${asked}), true) : false`;
    const refuse = (): void => this.#window.refuse(request.id);
    this.#window.evaluate(call).then((taken) => taken || refuse(), refuse);
  }
}
