export default { environments: { day: { viewport: [900, 640] } }, baselines: false };
