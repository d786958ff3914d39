const { getDefaultConfig } = require('expo/metro-config');

/** @type {import('expo/metro-config').MetroConfig} */
const config = getDefaultConfig(__dirname);

// Fonts ship as woff2, which Expo does not list as an asset by default.
config.resolver.assetExts.push('woff2');

module.exports = config;
