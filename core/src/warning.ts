export interface Warning {
  code: string
  message: string
}
