export interface Setup {
  family?: unknown
  calc?: unknown
  channels?: unknown
  settings?: unknown
}
