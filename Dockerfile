# Builds Mevrin from the registries; the image holds the program alone.
FROM golang:1.26 AS build
WORKDIR /src
COPY go.mod go.sum ./
RUN go mod download
COPY . .
RUN CGO_ENABLED=0 go build -trimpath -ldflags="-s -w" -o /mevrin ./cmd/mevrin && mkdir /data

FROM scratch
COPY --from=build /mevrin /mevrin
COPY --from=build --chown=65532:65532 /data /data
# SQLite keeps in /tmp what is large for a moment.
COPY --from=build --chown=65532:65532 /data /tmp
USER 65532
VOLUME /data
EXPOSE 8240
ENTRYPOINT ["/mevrin", "serve", "--people", "--addr", "0.0.0.0:8240", "--data", "/data"]
