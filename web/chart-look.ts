/** What all charts have in common: still, dark, in the page's own type. */
export const CHART_LOOK = {
  animations: { enabled: false },
  toolbar: { show: false },
  zoom: { enabled: false },
  background: 'transparent',
  fontFamily: 'Inter Variable',
  foreColor: '#9a9a9a',
  parentHeightOffset: 0,
};
