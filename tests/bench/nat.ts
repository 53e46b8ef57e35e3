import { benchNative } from './paths-native.ts';
benchNative();
