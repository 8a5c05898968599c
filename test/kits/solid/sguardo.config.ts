export default { baselines: false, isolate: 'file' };
