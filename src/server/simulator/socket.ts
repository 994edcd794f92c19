/** A simulated printer on a network socket. */
import { createServer, Server } from "node:net";
import { SimulatorHost } from "./host";

/** A server that plugs whoever connects into the printer; the last one to come has the cable. */
export function simulatorServer(host: SimulatorHost): Server {
  return createServer((socket) => {
    socket.setNoDelay(true);
    const detach = host.attach(
      (text) => socket.write(Buffer.from(text, "latin1")),
      () => socket.destroy(),
    );
    socket.on("data", (bytes) => host.receive(bytes.toString("latin1")));
    socket.on("error", () => undefined);
    socket.on("close", detach);
  });
}
