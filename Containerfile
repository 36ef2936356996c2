# The application alone, its database elsewhere (DATABASE_URL). See docs/set-ups.md.
FROM docker.io/library/node:20-bookworm-slim
RUN apt-get update \
  && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends postgresql-client ca-certificates \
  && rm -rf /var/lib/apt/lists/*
WORKDIR /srv/hanzai
COPY package.json package-lock.json ./
COPY core/package.json core/
COPY data/package.json data/
COPY cli/package.json cli/
COPY web/package.json web/
RUN npm ci --no-audit --no-fund
COPY . .
RUN npm run build -w web && chown -R node:node /srv/hanzai
USER node
ENV HOST=0.0.0.0 PORT=4711 HANZAI_ALLOW_NETWORK=1
EXPOSE 4711
CMD ["npm", "start", "--", "--empty"]
