import { SerialPort } from "serialport";
import { answerBy, answered } from "@/app/api/respond";
import { adaptersSchema } from "@/core/live/liveSchema";

/** The serial adapters of the machine that Gormit runs on. */
export function GET(): Promise<Response> {
  return answered(async () => {
    const ports = await SerialPort.list();
    return answerBy(adaptersSchema, {
      adapters: ports.map(({ path, manufacturer }) => ({
        path,
        name: manufacturer ? `${path} (${manufacturer})` : path,
      })),
    });
  });
}
