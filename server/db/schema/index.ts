export * from './tables'
export * from './registers'
