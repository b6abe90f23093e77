# The server as an image: built in one stage, run in another without what building needs, as a person without rights.
FROM node:20-bookworm-slim AS build
WORKDIR /app
COPY package.json package-lock.json ./
COPY packages/core/package.json packages/core/
COPY packages/demo/package.json packages/demo/
COPY packages/exchange/package.json packages/exchange/
COPY packages/exporters/package.json packages/exporters/
COPY packages/importers/package.json packages/importers/
COPY packages/protocol/package.json packages/protocol/
COPY packages/server/package.json packages/server/
COPY packages/web/package.json packages/web/
COPY bench/package.json bench/
COPY e2e/package.json e2e/
RUN npm ci --no-audit --no-fund
COPY . .
RUN NODE_ENV=production npm run build \
 && node packages/server/dist/empty-database-tool.js packages/server/empty-database \
 && npm prune --omit=dev --no-audit --no-fund

FROM node:20-bookworm-slim
ENV NODE_ENV=production HOST=0.0.0.0 PORT=4180 GULL_PANE_DATA=/data
WORKDIR /app
COPY --from=build /app/node_modules node_modules
COPY --from=build /app/packages/server/package.json packages/server/
COPY --from=build /app/packages/server/dist packages/server/dist
COPY --from=build /app/packages/server/drizzle packages/server/drizzle
COPY --from=build /app/packages/server/empty-database packages/server/empty-database
COPY --from=build /app/packages/web/dist packages/web/dist
COPY --from=build /app/LICENSE /app/NOTICE ./
RUN mkdir /data && chown node:node /data
USER node
VOLUME /data
EXPOSE 4180
HEALTHCHECK --interval=10s --timeout=5s --start-period=60s \
  CMD ["node", "-e", "fetch('http://127.0.0.1:4180/api/health').then(({ ok }) => process.exit(ok ? 0 : 1), () => process.exit(1))"]
CMD ["node", "packages/server/dist/main.js"]
