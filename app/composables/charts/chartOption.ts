import {
  formatNumber,
  inUnit,
  readableUnit,
  writeCsv,
  type Axis,
  type Figure,
  type Series,
  type UnitPreference,
} from '@hypomet/core'

/** Units in which both axes read well. */
export function axisUnits(figure: Figure, prefer: UnitPreference): [x: string, y: string] {
  const largest = (axis: 'x' | 'y') =>
    figure.series.reduce(
      (m, s) => s[axis].reduce<number>((n, v) => (v !== null && Math.abs(v) > n ? Math.abs(v) : n), m),
      0,
    )
  return [readableUnit(largest('x'), figure.x.kind, { prefer }), readableUnit(largest('y'), figure.y.kind, { prefer })]
}

/** Room around the axes, px. */
export const GRID = { left: 62, right: 18, top: 14, bottom: 42 }

/** Looks of curves of one kind, in turn. */
export const lookOf = (of: number | undefined): string => (of ? `of-${((of - 1) % 5) + 1}` : 'measured')
const SYMBOLS = ['circle', 'rect', 'triangle', 'diamond', 'emptyCircle', 'emptyRect']
const FEW = 60

/** A figure in SI as options of the chart library: preferred units, house colours, dotted for predicted. */
export function chartOption(
  figure: Figure,
  prefer: UnitPreference,
  style: CSSStyleDeclaration,
): Record<string, unknown> {
  const token = (name: string) => style.getPropertyValue(`--${name}`).trim()
  const [xUnit, yUnit] = axisUnits(figure, prefer)
  const x = (v: number) => inUnit(v, figure.x.kind, xUnit)
  const y = (v: number) => inUnit(v, figure.y.kind, yUnit)
  const text = { color: token('quiet'), fontFamily: 'Inter Variable', fontSize: 11 }
  if (figure.polar) return polarOption(figure, y, yUnit, token, text)
  const axis = ({ label, log }: Axis, unit: string, gap: number, values: (number | null)[][]) => ({
    ...(log ? {} : floorOf(values)),
    type: log ? 'log' : 'value',
    scale: true,
    ...(log ? decadesOf(values) : {}),
    name: unit === '1' ? label : `${label} [${unit}]`,
    nameLocation: 'middle',
    nameGap: gap,
    nameTextStyle: { ...text, color: token('ink'), fontWeight: 600 },
    axisLabel: {
      ...text,
      showMinLabel: log || floorOf(values).min === undefined,
      formatter: (v: number) =>
        formatNumber(v, 3)
          .replace(/(\.\d*?)0+$/, '$1')
          .replace(/\.$/, ''),
    },
    axisLine: { show: true, lineStyle: { color: token('quiet') } },
    splitLine: { lineStyle: { color: token('line'), opacity: 0.6 } },
  })
  return {
    animation: false,
    grid: GRID,
    xAxis: {
      ...axis(
        figure.x,
        xUnit,
        26,
        figure.series.map(s => s.x.map(v => v && x(v))),
      ),
      ...(figure.x.kind === 'time' ? { min: 'dataMin', max: 'dataMax' } : {}),
    },
    yAxis: axis(
      figure.y,
      yUnit,
      46,
      figure.series.map(s => s.y.map(v => v && y(v))),
    ),
    tooltip: {
      trigger: 'axis',
      backgroundColor: token('panel'),
      borderColor: token('line'),
      textStyle: { ...text, color: token('ink') },
      axisPointer: { type: 'cross', label: { backgroundColor: token('quiet') } },
      formatter: (points: { seriesName: string; value: [number, number] }[]) =>
        points
          .map(
            p =>
              `${p.seriesName}: ${formatNumber(p.value[0], 4)} ${xUnit}, <b>${formatNumber(p.value[1], 4)} ` +
              `${yUnit}</b>`,
          )
          .join('<br>'),
    },
    toolbox: { show: true, itemSize: 0, feature: { dataZoom: { show: true, title: { zoom: '', back: '' } } } },
    dataZoom: [{ type: 'inside', zoomOnMouseWheel: 'ctrl', moveOnMouseMove: false }],
    series: [
      ...figure.series.map(s => seriesOption(s, x, y, token)),
      {
        type: 'line',
        name: '',
        data: [],
        silent: true,
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          lineStyle: { color: token('ink'), type: 'solid', width: 1 },
          data: figure.lines.map(l => ({
            [l.axis === 'y' ? 'yAxis' : 'xAxis']: l.axis === 'y' ? y(l.value) : x(l.value),
            label: { ...text, formatter: l.label, position: l.axis === 'y' ? 'insideEndTop' : 'insideMiddleTop' },
          })),
        },
        ...bandsOption(figure, x, token, text),
      },
    ],
  }
}

/** Noise a little below zero does not open a whole division under it: the axis then begins just below. */
function floorOf(values: (number | null)[][]): { min?: number } {
  const [lowest, highest] = values
    .flat()
    .reduce<[number, number]>(
      ([lo, hi], v) => (v === null ? [lo, hi] : [Math.min(lo, v), Math.max(hi, v)]),
      [Infinity, -Infinity],
    )
  return lowest < 0 && lowest > -0.04 * highest ? { min: -0.04 * highest } : {}
}

/** Decades that hold all values above nothing. */
function decadesOf(values: (number | null)[][]): { min?: number; max?: number } {
  const above = values.flat().filter((v): v is number => v !== null && v > 0)
  const [low, high] = above.reduce<[number, number]>(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, 0])
  return above.length === 0
    ? {}
    : { min: 10 ** Math.floor(Math.log10(low) + 1e-9), max: 10 ** Math.ceil(Math.log10(high) - 1e-9) }
}

/** Levels farther down than this lie in the middle. */
const DEEPEST = -40

/** Drawn around, angles from the top to the right. */
function polarOption(
  figure: Figure,
  y: (v: number) => number,
  yUnit: string,
  token: (name: string) => string,
  text: object,
): Record<string, unknown> {
  const isLevel = figure.y.kind === 'level'
  const values = figure.series.flatMap(s => s.y.filter(v => v !== null).map(y))
  const floor = isLevel ? Math.max(DEEPEST, Math.floor(Math.min(...values) / 10) * 10) : Math.min(0, ...values)
  const around = (rad: number) => ((((rad * 180) / Math.PI) % 360) + 360) % 360
  return {
    animation: false,
    polar: { center: ['50%', '52%'], radius: '78%' },
    angleAxis: {
      type: 'value',
      min: 0,
      max: 360,
      startAngle: 90,
      interval: 30,
      axisLabel: {
        ...text,
        formatter: (v: number) => (v === 360 ? '' : `${v > 180 ? v - 360 : v}°`.replace('-', '−')),
      },
      splitLine: { lineStyle: { color: token('line'), opacity: 0.6 } },
      axisLine: { lineStyle: { color: token('quiet') } },
    },
    radiusAxis: {
      type: 'value',
      min: floor,
      ...(isLevel ? { max: 0 } : {}),
      axisLabel: {
        ...text,
        formatter: (v: number) =>
          formatNumber(v, 3)
            .replace(/(\.\d*?)0+$/, '$1')
            .replace(/\.$/, ''),
      },
      splitLine: { lineStyle: { color: token('line'), opacity: 0.6 } },
      axisLine: { lineStyle: { color: token('quiet') } },
    },
    tooltip: {
      trigger: 'axis',
      backgroundColor: token('panel'),
      borderColor: token('line'),
      textStyle: { ...text, color: token('ink') },
      formatter: (points: { seriesName: string; value: [number, number] }[]) =>
        points
          .map(p => `${p.seriesName}: ${formatNumber(p.value[1], 4)}°, <b>${formatNumber(p.value[0], 4)} ${yUnit}</b>`)
          .join('<br>'),
    },
    series: figure.series.map(s => ({
      ...seriesOption(
        s,
        v => v,
        v => v,
        token,
      ),
      coordinateSystem: 'polar',
      clip: true,
      data: s.x.map((v, i) => (v === null || s.y[i] == null ? [null, null] : [Math.max(floor, y(s.y[i]!)), around(v)])),
    })),
  }
}

function seriesOption(
  s: Series,
  x: (v: number) => number,
  y: (v: number) => number,
  token: (name: string) => string,
): Record<string, unknown> {
  const data = s.x.map((v, i) => (v === null || s.y[i] == null ? [null, null] : [x(v), y(s.y[i]!)]))
  if (s.style === 'points')
    return {
      type: 'scatter',
      name: s.name,
      data,
      symbolSize: 9,
      itemStyle: {
        color: 'transparent',
        borderColor: s.of === undefined ? token('ink') : token(lookOf(s.of)),
        borderWidth: 1.6,
      },
      z: 4,
    }
  const color =
    s.style === 'predicted'
      ? token('predicted')
      : s.style === 'fit' && s.of === undefined
        ? token('ink')
        : token(lookOf(s.of))
  const type = s.style === 'predicted' ? [2, 4] : s.style === 'fit' ? [8, 4] : 'solid'
  return {
    type: 'line',
    name: s.name,
    data,
    showSymbol: s.style === 'measured' && s.of !== undefined && data.length <= FEW,
    symbol: SYMBOLS[(s.of ?? 0) % SYMBOLS.length],
    symbolSize: 6,
    lineStyle: { color, type, width: s.style === 'measured' ? 1.6 : 1.8 },
    itemStyle: { color },
    emphasis: { disabled: true },
    z: s.style === 'fit' ? 3 : 2,
  }
}

function bandsOption(
  { bands = [] }: Figure,
  x: (v: number) => number,
  token: (name: string) => string,
  text: object,
): Record<string, unknown> {
  if (bands.length === 0) return {}
  return {
    markArea: {
      silent: true,
      itemStyle: { color: token('predicted'), opacity: 0.16 },
      label: { ...text, position: 'insideTop' },
      data: bands.map((b, i) => [
        {
          name: b.label,
          xAxis: x(b.from),
          label: { offset: [0, 13 * bands.slice(0, i).filter(o => o.to > b.from && o.from < b.to).length] },
        },
        { xAxis: x(b.to) },
      ]),
    },
  }
}

/** The figure's data in the units shown, one row a point. */
export function figureCsv(figure: Figure, prefer: UnitPreference): string {
  const [xUnit, yUnit] = axisUnits(figure, prefer)
  const rows = figure.series.flatMap(s =>
    s.x.flatMap((v, i) =>
      v === null || s.y[i] == null
        ? []
        : [[s.name, inUnit(v, figure.x.kind, xUnit), inUnit(s.y[i]!, figure.y.kind, yUnit)]],
    ),
  )
  return writeCsv([['series', `${figure.x.label} [${xUnit}]`, `${figure.y.label} [${yUnit}]`], ...rows])
}
