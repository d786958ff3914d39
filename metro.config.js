const { getDefaultConfig } = require('expo/metro-config');
const { join } = require('node:path');

/** @type {import('expo/metro-config').MetroConfig} */
const config = getDefaultConfig(__dirname);

// Fonts ship as woff2, which Expo does not list as an asset by default.
config.resolver.assetExts.push('woff2');

const nothing = { type: 'empty' };
const flat = (file) => ({ type: 'sourceFile', filePath: join(__dirname, 'node_modules', file) });
const narrow = (file) => ({ type: 'sourceFile', filePath: join(__dirname, 'narrow', file) });

/**
 * The web's page is to be small, and an index file drags in what nobody asked for. Here it is resolved to nothing, or to a file of
 * `narrow/` that holds what is used: [asked for by, asked for, answer]. Measured by `npm run size`.
 */
const NARROW = [
  // an animation package and its runtime, optional peers of what follows fingers and screens
  [/./, /^react-native-(reanimated|worklets)$/, nothing],
  // of what follows fingers: pulls; its former engine is never started
  [/./, /^react-native-gesture-handler$/, narrow('gestures.js')],
  [/react-native-gesture-handler/, /\/web_hammer\//, nothing],
  // it asks whether a view is a list before it pulls it
  [/gesture-handler.*findNodeHandle/, /\/exports\/FlatList$/, narrow('list.js')],
  // of the router: slots and links; its tabs, stacks, headers, previews, own pages and colours of other platforms are not
  [
    /expo-router.build/,
    /^\.\/(stack|color|layouts\/(Tabs|experimental-stack)|preview\/HrefPreview|stack-utils)$|\/(Sitemap|Unmatched|ErrorBoundary|Toast)$/,
    nothing,
  ],
  [/expo-router.build/, /\/native-stack\/createNativeStackNavigator$/, narrow('stack.js')],
  [/expo-router.build/, /^react-native-web\/dist\/index$/, narrow('react-native.js')],
  [/expo-router.build/, /\/screensFeatureFlags$/, narrow('screens.js')],
  // nothing here asks for a page's head by way of the router
  [/expo-router/, /\/vendor\/react-helmet-async\/lib$/, narrow('head.js')],
  // drawings come as elements, turned and moved by numbers: no texts of XML or of transforms are read
  [/react-native-svg/, /^\.\/(xml|transform|transformToRn)$/, nothing],
  // of zips: one flat file that packs by the browser's own streams; its many modules would be shared out over other parts
  [/./, /^@zip\.js\/zip\.js$/, flat('@zip.js/zip.js/dist/zip-core.min.js')],
  // of scales: straight and logarithmic ones of numbers; dates and colours are not
  [/d3-scale/, /^d3-time(-format)?$/, nothing],
  [/d3-scale/, /^d3-interpolate$/, narrow('interpolate.js')],
];
config.resolver.resolveRequest = (context, name, platform) => {
  const found =
    platform === 'web' && NARROW.find(([by, asked]) => asked.test(name) && by.test(context.originModulePath));
  return found ? found[2] : context.resolveRequest(context, name, platform);
};

// What is imported is set up when it is first used, not all at once as the page opens; but for what asks which script it is in.
const atOnce = ['runtime.ts', 'ImportMetaRegistry.ts'].map((file) =>
  join(__dirname, 'node_modules/expo/src/winter', file),
);
config.transformer.getTransformOptions = async () => ({
  transform: {
    experimentalImportSupport: true,
    inlineRequires: { blockList: Object.fromEntries(atOnce.map((path) => [path, true])) },
  },
});

module.exports = config;
