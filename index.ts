import '@expo/metro-runtime';
import './src/screens/shell/begin';
import 'expo-router/entry';
