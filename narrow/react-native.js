/** What the router asks of the platform on the web, without lists, animations and pictures. */
export { default as I18nManager } from 'react-native-web/dist/exports/I18nManager';
export { default as Platform } from 'react-native-web/dist/exports/Platform';
export { default as StyleSheet } from 'react-native-web/dist/exports/StyleSheet';
export { default as Text } from 'react-native-web/dist/exports/Text';
export { default as useColorScheme } from 'react-native-web/dist/exports/useColorScheme';
export { default as View } from 'react-native-web/dist/exports/View';
