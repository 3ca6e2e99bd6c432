# Runs Lime Tick with its data in a volume. Build and run:
#   podman build -t lime-tick .
#   podman run --network host -v lime-tick-data:/data lime-tick
# With the host's network it listens on that machine's own address, as it does without a container. To be reached from
# elsewhere it needs a passphrase and a proxy that speaks TLS; see docs/team.md:
#   podman run -p 4151:4151 -v lime-tick-data:/data -e LIME_TICK_HOST=0.0.0.0 \
#     -e LIME_TICK_ORIGIN=https://film.example -e LIME_TICK_PASSPHRASE_FILE=/run/secrets/passphrase lime-tick
FROM node:20-bookworm-slim AS built
WORKDIR /app
COPY package.json package-lock.json .npmrc ./
RUN npm ci
COPY . .
RUN npm run build && npm prune --omit=dev

FROM node:20-bookworm-slim
WORKDIR /app
COPY --from=built --chown=node:node /app /app
RUN mkdir /data && chown node:node /data
ENV NODE_ENV=production NEXT_TELEMETRY_DISABLED=1 LIME_TICK_DATA=/data
USER node
VOLUME /data
EXPOSE 4151
STOPSIGNAL SIGTERM
CMD ["npm", "start"]
