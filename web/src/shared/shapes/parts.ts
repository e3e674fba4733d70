// Small drawings of what lies on a path, in a frame of 36 by 18, the signal passing from left to right.
const line = 'M0 9h36'
export const partMarks: Record<string, string> = {
  cable: 'M0 9h5M31 9h5M5 6v6h4V6zM27 6v6h4V6zM9 9c3-8 5-8 7 0s4 8 6 0 3-6 5 0',
  adapter: 'M0 9h8M28 9h8M8 5h9v8H8zM17 3h11v12H17z',
  'through-meter': `${line}M18 9m-8 0a8 8 0 1 1 16 0 8 8 0 1 1-16 0M18 12l4-7`,
  'terminating-meter': 'M0 9h12M20 9m-8 0a8 8 0 1 1 16 0 8 8 0 1 1-16 0M20 12l4-7',
  'service-monitor': 'M0 9h8M8 2h22v14H8zM12 11l4-5 3 4 4-6',
  load: 'M0 9h8M8 4h20v10H8zM12 4V1M17 4V1M22 4V1M26 4V1M12 14v3M17 14v3M22 14v3M26 14v3',
  attenuator: 'M0 9h7M27 9h9M7 2l20 4v6L7 16z',
  'switched-attenuator': 'M0 9h7M27 9h9M7 2l20 4v6L7 16zM14 9l5-3M14 9h.1M20 9h.1',
  tap: `${line}M18 9v9M15 15l3 3 3-3`,
  coupler: `M0 6h36M8 12h20M28 12v6M25 15l3 3 3-3`,
  sampler: `${line}M18 9m-6 0a6 6 0 1 1 12 0M18 3V0`,
  analyzer: 'M0 9h6M6 1h28v16H6zM10 14h20M13 14V9M19 14V4M25 14v-3',
  'signal-generator': 'M0 9h10M19 9m-9 0a9 9 0 1 1 18 0 9 9 0 1 1-18 0M14 9c2-5 3-5 5 0s3 5 5 0',
  antenna: 'M0 14h14V2M14 2l-5 6M14 2l5 6',
}
