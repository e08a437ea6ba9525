# The app with its server, for a workshop: docs/server.md.
FROM node:20-slim AS made
WORKDIR /app
COPY package.json package-lock.json ./
RUN npm ci --no-audit --no-fund
COPY . .
RUN npm run build && npm prune --omit=dev

FROM node:20-slim
WORKDIR /app
ENV NODE_ENV=production HOST=0.0.0.0 PORT=4180
COPY --from=made /app/package.json ./
COPY --from=made /app/node_modules ./node_modules
COPY --from=made /app/build ./build
COPY --from=made /app/dist ./dist
COPY --from=made /app/bin ./bin
COPY --from=made /app/scripts/serve.mjs ./scripts/serve.mjs
USER node
EXPOSE 4180
HEALTHCHECK --interval=30s --timeout=3s CMD node -e "fetch('http://127.0.0.1:4180/api/health').then((a) => process.exit(a.ok ? 0 : 1), () => process.exit(1))"
CMD ["node", "scripts/serve.mjs"]
