/** What can go wrong with a project, with what is kept of it, and with its service. */
import { entry, given } from './entry.ts';

/** What can be wrong with a project. */
const project = {
  'config-missing': entry(
    (d) => `There is no sguardo.config.ts in ${d.folder} or in any folder above it.`,
    "Create one in your project's root; the shortest is: export default {};",
  ),
  'config-threw': entry((d) => `${d.file} could not be read: ${d.error}`, 'Fix the file and run again.'),
  'config-empty': entry(
    (d) => `${d.file} exports no configuration.`,
    'End it with: export default { … }; the shortest is: export default {};',
  ),
  'config-wrong': entry(
    (d) => `${d.file}: ${d.error}`,
    (d) => String(d.remedy ?? 'Correct that entry. docs/configuration.md lists every one.'),
  ),
  'openapi-wrong': entry(
    (d) => `${d.file}, which openapi names, cannot be read as an OpenAPI description: ${d.error}`,
    'Correct the file, or the path in sguardo.config.ts; it may be JSON or YAML.',
  ),
  'frame-missing': entry(
    (d) => `The frame ${d.file} named in ${d.config} does not exist.`,
    'Create it, correct the path, or remove the entry to run without a frame.',
  ),
  'frame-wrong': entry(
    (d) => `${d.file} does not export a component as its default.`,
    (d) => `For example: ${d.example}`,
  ),
  'looks-missing': entry(
    (d) => `No look files found in ${d.folder} with ${d.pattern}.`,
    'Put a look file beside a component, for example src/BerthCard.look.tsx.',
  ),
  'environment-unknown': entry(
    (d) => `There is no environment “${d.name}”.`,
    (d) => `Use one from the configuration: ${d.known}.`,
  ),
  'commit-unknown': entry(
    (d) => `git knows nothing called “${d.commit}”.`,
    'Name a commit, branch or tag of this repository, as in: sguardo run --changed main',
  ),
  'nothing-selected': entry(
    (d) => `No looks match ${d.patterns}.`,
    (d) =>
      d.near
        ? `Did you mean '${d.near}'? Use part of a name or of a file's path; * stands for anything.`
        : "Use part of a component's name, a look's name or a file's path; * stands for anything.",
  ),
};

/** What can be wrong with what is kept of it. */
const kept = {
  'baseline-corrupt': entry(
    (d) => `The baseline ${d.file} cannot be read as a picture: ${d.error}`,
    'Restore it from version control, or check the capture and approve it again.',
  ),
  'baseline-unreadable': entry(
    (d) => `${d.file} is not a valid baseline description: ${d.error}`,
    'Restore it from version control, or delete it and approve the capture again.',
  ),
  'journal-wrong': entry(
    (d) => `${d.file} says which baselines are being written, and cannot be understood: ${d.error}`,
    'Delete it, and look in version control at what has changed in this folder before you go on.',
  ),
  'baseline-torn': entry(
    (d) => `${d.file} and its description do not belong together: the description names another picture.`,
    'Restore both files from the same commit, or check the capture and approve it again.',
  ),
  'baseline-twice': entry(
    (d) => `${d.file} and ${d.other} both claim to be the baseline of the same capture.`,
    'Delete the one that is wrong, with its picture.',
  ),
  'baselines-not-folder': entry(
    (d) => `${d.folder} should be the folder of baselines, but it is a file.`,
    'Move that file away, or name another folder as baselines in sguardo.config.ts.',
  ),
  'database-corrupt': entry(
    (d) => `${d.file} is damaged and cannot be used: ${d.error}`,
    'Move the .sguardo folder away and run again. Approved baselines in the project are not affected; runs and ' +
      'decisions in that file are lost.',
  ),
  'database-newer': entry(
    (d) => `${d.file} was written by a newer Sguardo.`,
    'Update Sguardo, or move the .sguardo folder away to start with an empty one.',
  ),
  'disk-full': entry(
    (d) => `There is no space left on the disk for ${d.file}.`,
    'Free some space (a run of 100 looks needs about 5 MB) and run again. What was kept so far is intact.',
  ),
  'disk-read-only': entry(
    (d) => `${d.file} cannot be written: ${d.error}`,
    'Check who owns it, its permissions, and whether the disk is read-only.',
  ),
  'disk-failed': entry(
    (d) => `${d.file} could not be read or written: ${d.error}`,
    'Check the disk and the path, and run again.',
  ),
};

/** What can go wrong between the service and whoever asks it. */
const serviceAndClient = {
  'package-unbuilt': entry(
    (d) => `The package ${d.name}, which Sguardo needs, has not been built for this machine and this version of Node.`,
    (d) => `Run: npm rebuild ${d.name} (with pnpm: pnpm approve-builds). Install with scripts, not --ignore-scripts.`,
  ),
  'browser-missing': entry(
    () => 'Chromium was not found.',
    "Install Debian's package chromium, or name the binary in the environment variable SGUARDO_CHROMIUM.",
  ),
  'browser-start': entry((d) => `Chromium could not be started: ${d.error}`, 'Start the binary by hand to see why.'),
  'screen-missing': entry(
    () => 'There is no screen to show windows on.',
    'Leave --headed out, or start it where there is a desktop. On a server: xvfb-run sguardo run --headed',
  ),
  'sitting-gone': entry(
    (d) => `The page has been closed: ${d.why}`,
    'Go live again, from the bench or with: sguardo run --stop',
  ),
  'sittings-full': entry(
    (d) => `${d.most} looks are live already.`,
    'Close one of them first: press k in the console, and look for “live”.',
  ),
  'sitting-running': entry(
    () => 'The script is running at the moment.',
    'Wait until it stops, or put a breakpoint on a step.',
  ),
  'line-wrong': entry(
    (d) => `This line cannot be understood: ${d.error}`,
    "Write it as in a script, for example: click(the.button('Save'))",
  ),
  'site-broken': entry(
    (d) => `A file of this site cannot be read: ${d.file}`,
    'Publish it again, or open it from a file server: pages cannot read files that lie on a disk.',
  ),
  'site-without': entry(
    () => 'This is not part of the published site.',
    'Open the project in a running Sguardo: sguardo serve',
  ),
  'site-read-only': entry(
    () => 'A published site can be read, and nothing can be done in it.',
    'Open the project in a running Sguardo: sguardo serve',
  ),
  'site-folder': entry(
    (d) => `The folder ${d.folder} cannot become a site: ${d.why}`,
    'Name a folder that is empty, or one that sguardo publish has made.',
  ),
  'site-nothing': entry(() => 'There is nothing to publish: no look was run yet.', 'Run them first: sguardo run'),
  'port-taken': entry(
    (d) => `Port ${d.port} is already in use.`,
    'Choose another one with --port, or leave --port out to get a free one.',
  ),
  'service-missing': entry((d) => `The service could not be reached: ${d.error}`, 'Start it with: sguardo serve'),
  'service-start': entry(
    (d) => `The service did not start: ${d.error}`,
    'Start it in the foreground to see why: sguardo serve',
  ),
  'service-ending': entry(() => 'The service is about to end.', 'Run the command again: it starts another one.'),
  'service-there': entry(
    (d) => `Another service of the project ${d.folder} is running or starting.`,
    'Use that one: commands find it by themselves, and sguardo serve prints its address.',
  ),
  'host-refused': entry(
    (d) => `Requests for the host ${d.host} are not answered.`,
    'Use the address that sguardo serve printed.',
  ),
  'origin-refused': entry(
    (d) => `Requests from pages of ${d.origin} are not answered.`,
    'Open the console at the address that sguardo serve printed.',
  ),
  'request-wrong': entry((d) => `${d.error}`, 'Correct the request; /api/openapi.json describes every call.'),
  'request-too-large': entry(
    (d) => `The request is larger than the ${d.most} MB that are taken at once.`,
    'Send less at once, such as fewer patterns or files.',
  ),
  'queue-full': entry(
    (d) => `${d.most} runs are already waiting.`,
    'Wait for them to finish, or stop some: POST /api/runs/<id>/stop',
  ),
  'look-there': entry(
    (d) => `${d.component} has a look “${d.look}” already, or it has baselines.`,
    'Choose another name, or remove what that look has left: sguardo tidy',
  ),
  'known-wrong': entry(
    (d) => `${d.file} cannot be read: ${d.error}.`,
    'Restore it from git, or remove it and begin again: sguardo accessibility --adopt',
  ),
  'coverage-none': entry(() => 'No run has counted yet what its looks run.', 'Count it with: sguardo run --coverage'),
  'not-found': entry((d) => `There is no ${d.what}.`, 'Check the address, or look at the list that leads to it.'),
  'setup-where': entry(
    (d) => `${d.folder} is in no package: there is no package.json in it, nor in a folder above it.`,
    'Run this in the folder of a project, or make one first: npm create vite@latest',
  ),
  'setup-which': entry(
    (d) => `${d.folder} has several packages with components.`,
    (d) => `Say which one is meant, with --package and one of these: ${d.packages}`,
  ),
  'setup-there': entry(
    (d) => `${d.file} is there already: this project is set up.`,
    'To write looks for more components: sguardo draft. To see them: sguardo serve',
  ),
  'setup-unasked': entry(
    () => 'Nothing was written: there is no terminal to ask in.',
    'Run it again with --yes to write these files, or with --dry-run to only see them.',
  ),
  'keep-unclear': entry(
    (d) => `This cannot be kept in ${d.file}. ${d.why}`,
    'Copy the props, and put them into the file by hand.',
  ),
  'keep-conflict': entry(
    (d) => `${d.file} has been changed meanwhile, and was left as it is.`,
    'Look at what changes once more.',
  ),
  'draft-where': entry(
    (d) => `${d.file} ${d.why}.`,
    'Name the file of a component, by its path from here: sguardo draft src/BerthCard.tsx',
  ),
  'draft-nothing': entry(
    (d) => (d.wanted === '' ? `${d.file} exports no component.` : `${d.file} exports no component called ${d.wanted}.`),
    (d) => (d.names === '' ? 'Export the component, or name another file.' : `Use one of these: ${d.names}.`),
  ),
  'draft-there': entry(
    (d) => `${d.file} is there already, and was left as it is.`,
    'Add looks to it by hand, or move it away first.',
  ),
  'cause-gone': entry(
    () => 'This cause is not there any more.',
    'Something was decided or run meanwhile. List the causes again: sguardo causes',
  ),
  'cause-unknown': entry((d) => `There is no cause ${d.number}.`, 'List the causes with their numbers: sguardo causes'),
  'cause-failed': entry(
    (d) => `This is a failure and cannot be approved: ${d.title}`,
    'Fix the code, or the look, and run it again.',
  ),
  'nothing-to-decide': entry((d) => `${d.what}`, given),
  'capture-unsteady': entry(
    (d) => `${d.what} unsteady: ${d.names}.`,
    'Find out why with sguardo steady, and fix it. To approve it as it is: sguardo approve … --unsteady',
  ),
  'reason-missing': entry(
    (d) => `${d.what} needs a reason${d.what === 'Approving' ? ' in this project' : ''}.`,
    (d) =>
      d.what === 'Approving'
        ? 'Say why the change is meant: sguardo approve PATTERN --why "…"'
        : 'Say what is wrong with the change: sguardo reject PATTERN --why "…"',
  ),
  'picture-changed': entry(
    (d) => `${d.look} was run again meanwhile, and its capture “${d.capture}” shows something else now.`,
    (d) => `Look at the new picture before you decide: result ${d.result}.`,
  ),
  'conflict-gone': entry(
    (d) => `The merge conflict of ${d.look} (${d.capture}) is settled already.`,
    'Compare again: sguardo run',
  ),
  'conflict-side': entry(
    (d) => `${d.look} (${d.capture}) has no baseline there: “${d.take}” is empty.`,
    'Take another side, or approve what is shown now.',
  ),
  'nothing-to-undo': entry(() => 'There is no decision to take back.', 'See what was decided: sguardo history'),
  'undo-superseded': entry(
    (d) => `${d.look} (${d.capture}) was decided again, or its files have changed since. Nothing was taken back.`,
    'Approve or reject what it shows now, or restore the files with git.',
  ),
  internal: entry(
    (d) => `Something went wrong inside Sguardo: ${d.error}`,
    "Please report this, with what you did just before. The service's log has the details.",
  ),
};

export const projectProblems = { ...project, ...kept, ...serviceAndClient };
