export default {
  baselines: false,
  lanes: 2,
  environments: { desk: { viewport: [900, 700], motion: 'no-preference' } },
};
