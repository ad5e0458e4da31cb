interface Code {
  rawValue: string;
}
interface Detector {
  detect: (from: HTMLVideoElement) => Promise<Code[]>;
}
declare global {
  interface Window {
    BarcodeDetector?: new (options: { formats: string[] }) => Detector;
  }
}

/** Whether this browser reads codes with its camera. */
export const scans = () => window.BarcodeDetector !== undefined && navigator.mediaDevices?.getUserMedia !== undefined;
