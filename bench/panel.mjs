// The demo's panel, with as many strain gauges as a bench wants.

/** Its revision and the plan of its first test. */
export async function panelOf(call) {
  const articles = (await call('GET', '/api/campaigns')).flatMap(c => c.articles)
  const panel = articles.find(a => a.name === 'Cargo floor panel').revisions[0]
  const { plan } = (await call('GET', `/api/tests/${panel.tests[0].id}`)).test
  return { panel, plan }
}

/** Load, deflection, and gauges along the span: so many channels in all. */
export const wideChannels = (plan, count) => [
  ...plan.channels.filter(c => c.role === 'load' || c.role === 'deflection'),
  ...Array.from({ length: count - 2 }, (_, i) => ({
    role: `g${i}`,
    label: `Gauge ${i}`,
    kind: 'strain',
    x: { value: 0.02 + (1.1 * i) / count, unit: 'm' },
    sensorId: null,
  })),
]
